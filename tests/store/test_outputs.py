"""The gate: no file written for the creator ever lands on footage or on a breakdown."""

import hashlib
import os
from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.cli.main import main
from chapto.document.breakdown import Breakdown
from chapto.publish.package import default_video
from chapto.store.errors import AlreadyThere, StoreError
from chapto.store.fingerprint import fingerprint
from chapto.store.outputs import OutputGate, free_name
from chapto.store.session import Session
from tests.document.samples import small
from tests.media.clips import Clip, make


def project_with(footage: Path, project: Path) -> Breakdown:
    """A breakdown of one file, saved."""
    b = small()
    c = replace(b.footage[0], path=os.path.relpath(footage, project.parent), fingerprint=fingerprint(footage))
    b = replace(b, footage=(c,))
    Session.create(b, project).close()
    return b


WAYS_TO_REACH: dict[str, Callable[[Path, Path], Path]] = {
    "by its name": lambda folder, wanted: wanted,
    "through a link": lambda folder, wanted: _link(folder / "link", wanted),
    "through a hard link": lambda folder, wanted: _hard(folder / "hard.mp4", wanted),
    "by a way round": lambda folder, wanted: folder / "sub" / ".." / wanted.name,
    "through a linked folder": lambda folder, wanted: _link(folder / "again", folder) / wanted.name,
}


def _link(place: Path, to: Path) -> Path:
    if not place.is_symlink():
        place.symlink_to(to)
    return place


def _hard(place: Path, to: Path) -> Path:
    if not place.exists():
        os.link(to, place)
    return place


@pytest.mark.parametrize("way", WAYS_TO_REACH)
@pytest.mark.parametrize("what", ["footage.mp4", "bout.chapto", "other.chapto", "others.mov"])
def test_footage_and_breakdowns_are_refused_however_they_are_reached(tmp_path: Path, way: str, what: str) -> None:
    (tmp_path / "sub").mkdir()
    for name in ("footage.mp4", "others.mov"):
        (tmp_path / name).write_bytes(name.encode() * 99)
    b = project_with(tmp_path / "footage.mp4", tmp_path / "bout.chapto")
    project_with(tmp_path / "others.mov", tmp_path / "other.chapto")
    target = WAYS_TO_REACH[way](tmp_path, tmp_path / what)
    before = target.read_bytes()
    for replacing in (False, True):
        with pytest.raises(StoreError, match="never written over"):
            OutputGate(b, tmp_path / "bout.chapto", replacing=replacing).write(target, b"video")
    assert (tmp_path / what).read_bytes() == before


def test_footage_that_was_renamed_is_known_by_its_content(tmp_path: Path) -> None:
    (tmp_path / "footage.mp4").write_bytes(b"picture" * 99)
    b = project_with(tmp_path / "footage.mp4", tmp_path / "bout.chapto")
    (tmp_path / "footage.mp4").rename(tmp_path / "renamed.mp4")
    with pytest.raises(StoreError, match="is footage"):
        OutputGate(b, tmp_path / "bout.chapto", replacing=True).write(tmp_path / "renamed.mp4", b"video")


def test_any_other_file_is_replaced_only_when_that_was_agreed_to(tmp_path: Path) -> None:
    (tmp_path / "own.srt").write_text("my captions")
    with pytest.raises(AlreadyThere) as told:
        OutputGate(small(), None).write(tmp_path / "own.srt", b"new")
    assert told.value.places == (tmp_path / "own.srt",)
    assert (tmp_path / "own.srt").read_text() == "my captions"
    OutputGate(small(), None, replacing=True).write(tmp_path / "own.srt", b"new")
    assert (tmp_path / "own.srt").read_bytes() == b"new"


def test_what_comes_to_stand_there_meanwhile_is_kept(tmp_path: Path) -> None:
    target = tmp_path / "out.mp4"

    def slow_work() -> None:
        with OutputGate(small(), None).making(target) as part:
            part.write_bytes(b"video")
            target.write_bytes(b"somebody's")

    with pytest.raises(FileExistsError):
        slow_work()
    assert target.read_bytes() == b"somebody's"
    assert list(tmp_path.iterdir()) == [target]


def test_new_files_get_the_users_umask_and_replaced_ones_keep_their_mode(tmp_path: Path) -> None:
    old = os.umask(0o027)
    try:
        made = OutputGate(small(), None).write(tmp_path / "out.vtt", b"WEBVTT")
        assert made.stat().st_mode & 0o777 == 0o640
        made.chmod(0o604)
        OutputGate(small(), None, replacing=True).write(made, b"WEBVTT")
        assert made.stat().st_mode & 0o777 == 0o604
    finally:
        os.umask(old)


def test_the_default_name_is_beside_the_breakdown_and_takes_a_free_number(tmp_path: Path) -> None:
    project = tmp_path / "sparring.chapto"
    assert default_video(project) == tmp_path / "sparring-breakdown.mp4"
    (tmp_path / "sparring-breakdown.srt").write_text("captions of somebody")
    assert default_video(project) == tmp_path / "sparring-breakdown-2.mp4"
    (tmp_path / "sparring-breakdown-2.mp4").touch()
    assert default_video(project) == tmp_path / "sparring-breakdown-3.mp4"
    assert free_name(tmp_path / "x.mp4") == tmp_path / "x.mp4"


def sums(folder: Path) -> dict[str, str]:
    kept = [p for p in folder.rglob("*") if p.is_file() and p.suffix in (".mp4", ".chapto") and "out" not in p.name]
    return {str(p): hashlib.sha256(p.read_bytes()).hexdigest() for p in kept}


@pytest.fixture(scope="module")
def workshop(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Two breakdowns with a short file each, and links to them."""
    folder = tmp_path_factory.mktemp("gate") / "work"
    (folder / "sub").mkdir(parents=True)
    for name in ("roll", "match"):
        make(folder / f"{name}.mp4", Clip(width=64, height=64, frames=12))
        assert main(["new", str(folder / f"{name}.mp4"), "-o", str(folder / f"{name}.chapto")]) == 0
    (folder / "link.mp4").symlink_to(folder / "roll.mp4")
    (folder / "link.chapto").symlink_to(folder / "match.chapto")
    os.link(folder / "match.mp4", folder / "sub" / "hard.mp4")
    return folder


targets = st.sampled_from(
    ["roll.mp4", "match.mp4", "roll.chapto", "match.chapto", "link.mp4", "link.chapto", "sub/hard.mp4", "roll.vtt",
     "sub/../roll.mp4", "./match.mp4", "roll.csv", "sub", "nowhere/x.mp4", "out.mp4", "out.csv", "sub/out.webm"]
)  # fmt: skip
commands = st.sampled_from(["render", "log", "log vtt", "new", "read"])


@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow])
@given(command=commands, project=st.sampled_from(["roll", "match"]), target=targets, force=st.booleans())
def test_no_command_changes_footage_or_breakdowns_whatever_the_target(
    workshop: Path, command: str, project: str, target: str, force: bool
) -> None:
    before, place = sums(workshop), str(workshop / target)
    file = str(workshop / f"{project}.chapto")
    more = ["--force"] if force else []
    given_arguments = {
        "render": ["render", file, "-o", place, "--quiet", *more],
        "log": ["log", file, "-o", place, *more],
        "log vtt": ["log", file, "-o", place + ".vtt", *more],
        "new": ["new", str(workshop / f"{project}.mp4"), "-o", place],
        "read": ["log", file, "--read", place],
    }
    status = main(given_arguments[command])
    assert status in (0, 1)
    assert sums(workshop) == before
    for made in workshop.rglob("*out*"):
        made.unlink()
