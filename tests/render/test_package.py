"""A package of a small breakdown, each of its files opened by another library than wrote it."""

from __future__ import annotations

import csv
import json
import os
import signal
import subprocess
import sys
import time
import wave
from fractions import Fraction as F
from pathlib import Path

import av
import ebmlite
import jsonschema
import numpy as np
import opentimelineio as otio
import pytest
import webvtt
from msgspec.structs import replace
from PyQt6.QtGui import QImage

from chapto.document import edit_log, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.publishing import Shape, Short, Thumbnail
from chapto.document.script import BeatKind
from chapto.document.treatments import Hold, Slow
from chapto.errors import Cancelled
from chapto.publish.manifest import Manifest, manifest_schema, sha256_of
from chapto.publish.roles import Role
from chapto.render.new import new_breakdown
from chapto.render.package.make import NotOurs, PackageError, make_package
from chapto.render.package.making import Making
from chapto.render.package.shorts import write_shorts
from chapto.render.production import Production, produce
from chapto.store.session import Session
from chapto.store.whole_folder import recover, whole_folder
from chapto.voice.guide import GuideVoice
from tests.media.clips import Clip, make

LINES = (
    ("Here the knee comes through.", BeatKind.HAPPENED, None),
    ("It works because the frame is gone.", BeatKind.WHY, "hold"),
    ("Clear the frame first.", BeatKind.RULE, Slow(F(1, 2))),
)


def small_breakdown(folder: Path) -> Breakdown:
    """Three chapters over sixteen seconds of footage, at 320×180."""
    clip = make(folder / "clip.mp4", Clip(frames=480, gop=30))
    b = new_breakdown([clip], folder)
    b = replace(b, title="Two tries", script=(), format=replace(b.format, width=320, height=180))
    for i in range(3):
        b = edit_log.add_exchange(b, F(1 + 5 * i), F(5 + 5 * i))
        b = edit_log.change_exchange(b, b.exchanges[-1].id, technique="knee slide")
        b = edit_log.add_moment(b, F(3 + 5 * i))
        b = edit_script.add_section(b, title=f"Try {i + 1}", exchange=b.exchanges[-1].id)
        for text, kind, treatment in LINES:
            b = edit_script.add_beat(b, b.script[-1].id, text)
            beat = b.script[-1].beats[-1].id
            b = edit_script.treat(b, beat, Hold(b.moments[-1].id) if treatment == "hold" else treatment)
            b = edit_script.change_beat_kind(b, beat, kind)
    return edit_log.set_label(b, b.moments[-1].id, "Knee slide")


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, Production, Manifest]:
    folder = tmp_path_factory.mktemp("package")
    b = small_breakdown(folder)
    shorts = (Short(section=b.script[0].id), Short(section=b.script[1].id, shape=Shape.SQUARE))
    b = replace(b, publishing=replace(b.publishing, shorts=shorts, thumbnail=Thumbnail(title="Try again")))
    project = folder / "roll.chapto"
    Session.create(b, project).close()
    guide = GuideVoice(folder / "voice")
    production = produce(b, guide, project=project)
    manifest = make_package(production, project, folder / "roll-package", guide)
    return folder / "roll-package", production, manifest


def only(manifest: Manifest, folder: Path, role: Role) -> Path:
    (found,) = (folder / f.path for f in manifest.files if f.role == role)
    return found


def test_everything_is_there_and_listed_with_its_digest(made: tuple[Path, Production, Manifest]) -> None:
    folder, _, manifest = made
    jsonschema.Draft202012Validator(json.loads(manifest_schema())).validate(
        json.loads((folder / "manifest.json").read_bytes())
    )
    files = {p.relative_to(folder).as_posix() for p in folder.rglob("*") if p.is_file()} - {"manifest.json"}
    assert {f.path for f in manifest.files} == files and {f.role for f in manifest.files} == set(Role)
    assert all(sha256_of(folder / f.path) == f.sha256 for f in manifest.files)


def test_captions_are_beside_it_and_inside_it(made: tuple[Path, Production, Manifest]) -> None:
    folder, production, manifest = made
    texts = [c.text for c in production.programme.captions]
    assert [c.text for c in webvtt.read(str(only(manifest, folder, Role.WEBVTT)))] == texts
    assert [c.text for c in webvtt.from_srt(str(only(manifest, folder, Role.SUBRIP)))] == texts
    for role in (Role.VIDEO, Role.ARCHIVE):
        with av.open(str(only(manifest, folder, role))) as media:
            stream = media.streams.subtitles[0]
            found = [(float(p.pts * p.time_base), p.decode()) for p in media.demux(stream) if p.size > 2]
        assert [round(t, 2) for t, _ in found] == [round(float(c.start), 2) for c in production.programme.captions]
        said = [d.dialogue.decode() if hasattr(d, "dialogue") else str(d) for _, ds in found for d in ds]
        assert len(said) == len(texts)


def test_the_archive_holds_nested_chapters_and_a_cover(made: tuple[Path, Production, Manifest]) -> None:
    """RFC 9559: EditionEntry, ChapterAtom in ChapterAtom, times in nanoseconds; the seek head leads there."""
    folder, production, manifest = made
    place = only(manifest, folder, Role.ARCHIVE)
    document = ebmlite.loadSchema("matroska.xml").load(str(place))
    segment = next(e for e in document if e.name == "Segment")
    chapters = [e for e in segment if e.name == "Chapters"]
    assert len(chapters) == 1 and segment.offset + segment.size + (segment.payloadOffset - segment.offset) == (
        place.stat().st_size
    )
    (edition,) = chapters[0]
    atoms = [e for e in edition if e.name == "ChapterAtom"]
    spans = [tuple(x.value for x in a if x.name in ("ChapterTimeStart", "ChapterTimeEnd")) for a in atoms]
    fps = production.programme.fps
    wanted = [
        (round(c.start / fps * 10**9), round(end / fps * 10**9)) for c, end in production.programme.chapter_spans()
    ]
    assert spans == wanted
    inner = [x for a in atoms for x in a if x.name == "ChapterAtom"]
    assert len(inner) == len(production.programme.labels) > 0
    seeks = next(e for e in segment if e.name == "SeekHead").dump()
    data = place.read_bytes()
    told = {bytes(s["SeekID"]): s["SeekPosition"] for s in seeks["Seek"]}
    at = segment.payloadOffset + told[b"\x10C\xa7p"]
    assert data[at : at + 4] == b"\x10C\xa7p"
    with av.open(str(place)) as media:
        assert [c["metadata"]["title"] for c in media.chapters()] == [c.title for c in production.programme.chapters]
        assert any(s.type == "attachment" or s.name == "mjpeg" for s in media.streams)


def test_the_archive_shows_the_very_pictures_of_the_video(made: tuple[Path, Production, Manifest]) -> None:
    folder, _, manifest = made
    shown = []
    for role in (Role.VIDEO, Role.ARCHIVE):
        with av.open(str(only(manifest, folder, role)), options={"err_detect": "explode"}) as media:
            shown.append([f.to_ndarray().tobytes() for f in media.decode(video=0)])
    assert shown[0] == shown[1]


def test_the_thumbnail_is_as_sites_want_it(made: tuple[Path, Production, Manifest]) -> None:
    folder, _, manifest = made
    place = only(manifest, folder, Role.THUMBNAIL)
    image = QImage(str(place))
    assert (image.width(), image.height()) == (1280, 720) and place.stat().st_size < 2_000_000
    # The slip of paper (#FAF6EC) is in one of its corners.
    corners = [(90, 90), (1190, 90), (90, 630), (1190, 630)]
    colours = [image.pixelColor(*at).getRgb()[:3] for at in corners]
    assert sum(all(abs(a - z) < 4 for a, z in zip(c, (250, 246, 236), strict=True)) for c in colours) == 1


def test_shorts_have_their_shape_and_fit_a_minute(made: tuple[Path, Production, Manifest]) -> None:
    folder, _, manifest = made
    sizes = []
    for f in manifest.files:
        if f.role == Role.SHORT:
            with av.open(str(folder / f.path)) as media:
                sizes.append((media.streams.video[0].width, media.streams.video[0].height))
                assert media.duration is not None and 0 < media.duration <= 60_500_000
    assert sizes == [(180, 320), (180, 180)]


def test_a_short_that_nothing_of_fits_is_said_and_the_others_are_made(
    made: tuple[Path, Production, Manifest], guide: GuideVoice, tmp_path: Path
) -> None:
    b = made[1].breakdown
    endless = replace(b.script[0], beats=(replace(b.script[0].beats[0], text="and the knee slides on " * 60),))
    b = replace(b, script=(endless, *b.script[1:]))
    project, said = made[0].with_name("roll.chapto"), list[str]()
    making = Making(produce(b, guide, project=project), project, tmp_path, "roll", ".mp4", guide, say=said.append)
    ((place, role),) = write_shorts(making)
    assert role is Role.SHORT and place.name == "roll-2-1x1.mp4" and place.stat().st_size > 1_000
    assert said == ["No short of “Try 1”: not even its first words fit into 60 s."]


def test_the_timeline_tiles_the_programme(made: tuple[Path, Production, Manifest]) -> None:
    folder, production, manifest = made
    found = otio.adapters.read_from_file(str(only(manifest, folder, Role.TIMELINE)))
    picture, voice = found.tracks
    p = production.programme
    assert picture.duration().value == p.frames and len(picture) == len(p.passages)
    for clip, passage in zip(picture, p.passages, strict=True):
        assert clip.metadata["chapto"]["kind"] == passage.kind.value
        assert clip.range_in_parent().start_time.value == passage.watch_in
        rates = [e.time_scalar for e in clip.effects]
        assert rates == ([] if passage.rate == 1 or not passage.footage else [float(passage.rate)])
    assert [m.name for m in found.tracks.markers if m.metadata["chapto"]["kind"] == "chapter"] == [
        c.title for c in p.chapters
    ]
    said = [c for c in voice if isinstance(c, otio.schema.Clip)]
    assert " ".join(c.name for c in said) == " ".join(w.text for w in p.words)


def test_stems_are_the_programme_apart(made: tuple[Path, Production, Manifest]) -> None:
    folder, production, manifest = made
    stems = [folder / f.path for f in manifest.files if f.role == Role.STEM]
    length = round(production.programme.seconds * 48_000)
    whole = np.zeros((length, 2))
    for place in stems:
        with wave.open(str(place)) as stem:
            assert (stem.getframerate(), stem.getnchannels(), stem.getsampwidth()) == (48_000, 2, 3)
            raw = np.frombuffer(stem.readframes(length), np.uint8).reshape(-1, 3)
            value = raw[:, 0].astype(int) | raw[:, 1].astype(int) << 8 | raw[:, 2].astype(int) << 16
            whole += ((value ^ 0x800000) - 0x800000).reshape(-1, 2) / 2**23
    with av.open(str(only(manifest, folder, Role.VIDEO))) as media:
        resampler = av.AudioResampler(format="flt", layout="stereo", rate=48_000)
        blocks = [o.to_ndarray().reshape(-1, 2) for f in media.decode(audio=0) for o in resampler.resample(f)]
    heard = np.concatenate(blocks)[:length]
    count = min(len(heard), length)
    assert np.corrcoef(heard[:count, 0], whole[:count, 0])[0, 1] > 0.97


def test_the_study_sheet_holds_what_a_student_wants(made: tuple[Path, Production, Manifest]) -> None:
    folder, _, manifest = made
    page = only(manifest, folder, Role.STUDY_PAGE).read_text("utf-8")
    for words in ("Try 1", "What happened", "Why it worked", "Rule of thumb", "Clear the frame first.", "qualified"):
        assert words in page
    assert page.count("data:image/jpeg;base64,") >= 3 and "http" not in page
    assert only(manifest, folder, Role.STUDY_PDF).read_bytes().startswith(b"%PDF-1.")


def test_transcript_and_log_are_whole(made: tuple[Path, Production, Manifest]) -> None:
    folder, production, manifest = made
    text = only(manifest, folder, Role.TRANSCRIPT).read_text("utf-8")
    told = " ".join(text.replace("[", " [").split())
    assert all(line in told for line, _, _ in LINES) and "Try 3" in text
    with open(only(manifest, folder, Role.LOG), newline="", encoding="utf-8") as log:
        rows = list(csv.DictReader(log))
    assert sum(r["event"] == "exchange" for r in rows) == len(production.breakdown.exchanges)


# ── whole, or not at all ─────────────────────────────────────────────────────────────────────────────────────
def snapshot(folder: Path) -> dict[str, bytes]:
    return {p.relative_to(folder).as_posix(): p.read_bytes() for p in sorted(folder.rglob("*")) if p.is_file()}


def test_a_stopped_package_leaves_the_one_before(made: tuple[Path, Production, Manifest], guide: GuideVoice) -> None:
    folder, production, _ = made
    before, parts = snapshot(folder), []

    def stop() -> bool:
        parts.append(1)
        return len(parts) > 40

    with pytest.raises(Cancelled):
        make_package(production, folder.parent / "roll.chapto", folder, guide, cancelled=stop)
    assert snapshot(folder) == before and [p.name for p in folder.parent.iterdir() if p.name.startswith(".")] == []


def test_what_chapto_did_not_make_is_never_swept_away(
    made: tuple[Path, Production, Manifest], tmp_path: Path, guide: GuideVoice
) -> None:
    folder, production, manifest = made
    project = folder.parent / "roll.chapto"
    for name in ("notes.txt", "shorts/own.mp4"):
        (folder / name).write_text("mine")
        with pytest.raises(NotOurs, match=Path(name).name):
            make_package(production, project, folder, guide)
        (folder / name).unlink()
    place = only(manifest, folder, Role.DESCRIPTION)
    text = place.read_bytes()
    place.write_bytes(text + b"my own line\n")
    with pytest.raises(NotOurs, match="description"):
        make_package(production, project, folder, guide)
    place.write_bytes(text)
    (tmp_path / "file").write_text("x")
    with pytest.raises(PackageError, match="is a file"):
        make_package(production, project, tmp_path / "file", guide)
    with pytest.raises(PackageError, match="is not there"):
        make_package(production, project, tmp_path / "no" / "folder", guide)


KILLED = """
import sys
from pathlib import Path
from chapto.store.whole_folder import whole_folder
target = Path(sys.argv[1])
number = 0
while True:
    number += 1
    with whole_folder(target) as part:
        for name in "abcdef":
            (part / name).write_text(str(number) * 2000)
        print(number, flush=True)
"""


@pytest.mark.parametrize("after", [0.02, 0.05, 0.11, 0.2])
def test_a_kill_leaves_the_old_folder_or_the_new_one(tmp_path: Path, after: float) -> None:
    target = tmp_path / "package"
    worker = subprocess.Popen([sys.executable, "-c", KILLED, str(target)], stdout=subprocess.PIPE, text=True)
    assert worker.stdout is not None
    worker.stdout.readline()
    worker.stdout.readline()
    time.sleep(after)
    os.kill(worker.pid, signal.SIGKILL)
    worker.wait()
    worker.stdout.close()
    recover(target)
    texts = {p.read_text() for p in target.iterdir()}
    assert len(texts) == 1 and len(list(target.iterdir())) == 6
    assert [p.name for p in tmp_path.iterdir()] == ["package"]


def test_where_two_names_cannot_be_exchanged_a_kill_between_is_put_right(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    target = tmp_path / "package"
    target.mkdir()
    (target / "old").write_text("old")
    monkeypatch.setattr("chapto.store.whole_folder._exchanged", lambda one, other: False)
    with whole_folder(target) as part:
        (part / "new").write_text("new")
    assert [p.name for p in target.iterdir()] == ["new"]
    target.rename(tmp_path / ".package.before")
    recover(target)
    assert [p.name for p in target.iterdir()] == ["new"] and len(list(tmp_path.iterdir())) == 1
