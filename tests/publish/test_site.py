"""The simulated site as a creator meets one: broken connections, a full quota, refused titles, a date, a withdrawal."""

from __future__ import annotations

import hashlib
import itertools
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.document.edit_publishing import note_published, note_withdrawn
from chapto.errors import Cancelled
from chapto.programme.compile import compile_programme
from chapto.publish.manifest import NAME, Manifest, encode, packed_file
from chapto.publish.roles import Role
from chapto.publish.site.site import Draft, Interrupted, Limits, Refused, SiteError, State
from chapto.publish.site.stand_in import PROCESSING, StandInSite
from chapto.publish.site.upload import TRIES, draft_of, send, utc, video_of
from chapto.publish.site.viewer import cut_title, viewer_page
from chapto.store.schema import decode
from chapto.store.session import Session
from tests.document.samples import small

SMALL = Limits(part=1000)


@pytest.fixture
def package(tmp_path: Path) -> Path:
    folder = tmp_path / "roll-package"
    folder.mkdir()
    files = {
        "roll.mp4": (Role.VIDEO, bytes(range(256)) * 40),
        "roll.description.txt": (Role.DESCRIPTION, b"One answer to two tries.\n"),
        "roll.vtt": (Role.WEBVTT, b"WEBVTT\n"),
        "roll.thumbnail.jpg": (Role.THUMBNAIL, b"\xff\xd8jpeg"),
    }
    for name, (_, data) in files.items():
        (folder / name).write_bytes(data)
    made = tuple(packed_file(folder, folder / name, role) for name, (role, _) in files.items())
    manifest = Manifest(title="Roll", made="2026-11-02T10:00:00Z", chapto="0", seconds=1.0, files=made)
    (folder / NAME).write_bytes(encode(manifest))
    return folder


def site(tmp_path: Path, **options: object) -> StandInSite:
    return StandInSite(tmp_path / "site", limits=SMALL, **options)  # type: ignore[arg-type]


def sent(where: StandInSite, package: Path, draft: Draft, **options: object) -> str:
    return send(where, package, draft, wait=lambda s: None, **options).address  # type: ignore[arg-type]


def test_a_package_goes_out_in_parts_and_gets_an_address(package: Path, tmp_path: Path) -> None:
    shares: list[float] = []
    where = site(tmp_path)
    address = sent(where, package, draft_of(package, "Roll"), progress=shares.append)
    assert address.startswith("site://") and shares == sorted(shares) and shares[-1] == 1
    (kept,) = (tmp_path / "site").glob("*/video")
    assert kept.read_bytes() == video_of(package).read_bytes()


@given(st.lists(st.booleans(), max_size=40))
def test_a_connection_that_breaks_is_taken_up_where_it_broke(breaks: list[bool]) -> None:
    import tempfile

    with tempfile.TemporaryDirectory() as folder:
        video = Path(folder) / "pack"
        video.mkdir()
        data = bytes(7 * i % 251 for i in range(9500))
        (video / "v.mp4").write_bytes(data)
        manifest = Manifest(
            title="V", made="", chapto="", seconds=1.0, files=(packed_file(video, video / "v.mp4", Role.VIDEO),)
        )
        (video / NAME).write_bytes(encode(manifest))
        where = StandInSite(Path(folder) / "site", limits=SMALL, breaks=iter(breaks))
        draft = Draft(title="V", description="", size=len(data), sha256=hashlib.sha256(data).hexdigest())
        # Six broken tries in a row are told; the next time it goes on.
        for _ in range(len(breaks) // (TRIES + 1) + 1):
            try:
                sent(where, video, draft)
                break
            except Interrupted:
                continue
        (kept,) = (Path(folder) / "site").glob("*/video")
        assert kept.read_bytes() == data


def test_a_stopped_upload_goes_on_and_sends_nothing_twice(package: Path, tmp_path: Path) -> None:
    where, draft = site(tmp_path), draft_of(package, "Roll")
    asked = itertools.count()
    with pytest.raises(Cancelled):
        sent(where, package, draft, cancelled=lambda: next(asked) >= 3)
    upload = where.begin(draft)
    assert where.received(upload) == 3000
    with pytest.raises(SiteError, match="the upload stands at 3,000"):
        where.send(upload, 0, b"again")
    sent(site(tmp_path), package, draft)
    assert len(list((tmp_path / "site").iterdir())) == 1


@pytest.mark.parametrize(
    ("title", "sentence"),
    [("", "wants a title"), ("x" * 101, "100 letters; this one has 101"), ("A <b> title", "no title with “<”")],
)
def test_a_refused_title_is_told_before_anything_is_sent(
    package: Path, tmp_path: Path, title: str, sentence: str
) -> None:
    with pytest.raises(Refused, match=sentence):
        sent(site(tmp_path), package, draft_of(package, title))
    assert not (tmp_path / "site").exists()


def test_a_full_quota_is_told_and_room_comes_back_with_a_withdrawal(package: Path, tmp_path: Path) -> None:
    where = site(tmp_path, quota=15_000)
    first = sent(where, package, draft_of(package, "One"))
    with pytest.raises(Refused, match="has room for 4,760 bytes more; this video has 10,240"):
        sent(where, package, draft_of(package, "Two"))
    where.withdraw(first.rsplit("/", 1)[1])
    assert sent(where, package, draft_of(package, "Two")) != first


def test_it_is_processed_first_and_a_date_is_kept(package: Path, tmp_path: Path) -> None:
    now = [datetime(2026, 12, 1, tzinfo=UTC)]
    where = site(tmp_path, now=lambda: now[0])
    draft = draft_of(package, "Roll", now[0] + timedelta(days=2))
    published = send(where, package, draft, wait=lambda s: None)
    video = published.address.rsplit("/", 1)[1]
    assert published.goes_public == "2026-12-03T00:00:00Z" and where.standing(video).state is State.SCHEDULED
    now[0] += timedelta(days=3)
    assert where.standing(video).state is State.PUBLIC
    where.withdraw(video)
    assert where.standing(video).state is State.WITHDRAWN
    fresh = where.begin(draft_of(package, "Other"))
    for first in range(0, 10_240, 1000):
        where.send(fresh, first, video_of(package).read_bytes()[first : first + 1000])
    other = where.finish(fresh)
    assert [where.standing(other).state for _ in range(PROCESSING)].count(State.PROCESSING) == PROCESSING - 1


def test_thumbnail_and_title_can_be_replaced(package: Path, tmp_path: Path) -> None:
    where = site(tmp_path)
    video = sent(where, package, draft_of(package, "Roll")).rsplit("/", 1)[1]
    where.change(video, title="A roll", thumbnail=b"other")
    assert where.standing(video).title == "A roll"
    assert (tmp_path / "site" / video / "thumbnail.jpg").read_bytes() == b"other"
    with pytest.raises(Refused, match="thumbnails of 2,000,000 bytes"):
        where.change(video, thumbnail=bytes(2_000_001))


def test_what_was_changed_after_it_was_made_is_not_sent(package: Path) -> None:
    with open(video_of(package), "ab") as video:
        video.write(b"more")
    with pytest.raises(SiteError, match="is not as it was made"):
        draft_of(package, "Roll")
    (package / NAME).unlink()
    with pytest.raises(SiteError, match="is no whole package"):
        draft_of(package, "Roll")


def test_what_went_out_is_written_down_and_kept(package: Path, tmp_path: Path) -> None:
    published = send(site(tmp_path), package, draft_of(package, "Roll"), wait=lambda s: None)
    assert published.video == hashlib.sha256(video_of(package).read_bytes()).hexdigest()
    session = Session.create(small(), tmp_path / "roll.chapto")
    session.edit("out", lambda b: note_published(b, published))
    session.edit("back", lambda b: note_withdrawn(b, published.address, utc(datetime(2026, 12, 9, tzinfo=UTC))))
    session.save()
    session.close()
    (kept,) = decode((tmp_path / "roll.chapto").read_bytes(), "roll").publishing.published
    assert (kept.address, kept.withdrawn) == (published.address, "2026-12-09T00:00:00Z")


def test_the_viewer_sees_a_cut_title_two_lines_and_chapters_only_where_a_site_shows_them() -> None:
    title = "One answer to two knee slides, and why the second one worked out"
    page = viewer_page(title, "a\n\nb\nc\nd\n", compile_programme(small(), {}), Limits())
    assert page.listed == "One answer to two knee slides, and why the second one…" and len(page.listed) <= 60
    assert (page.first_lines, page.more, page.chapters) == (("a", "b"), 2, ())
    assert (page.title_count, page.description_count) == ((len(title), 100), (9, 5000))


@given(st.text(max_size=200), st.integers(5, 90))
def test_a_cut_title_is_never_longer_than_its_room(title: str, most: int) -> None:
    shown = cut_title(title, most)
    assert len(shown) <= most and (shown == title or shown.endswith("…"))
