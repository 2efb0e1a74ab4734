"""Chapto as something to install: menu entry, manual page, wheel and sdist."""

from __future__ import annotations

import argparse
import re
import runpy
import shutil
import subprocess
import sys
import tarfile
import zipfile
from pathlib import Path

import pytest

from chapto.app.desktop import APP_ID, SYSTEM, install, installed_files, uninstall
from chapto.cli.main import _parser

ROOT = Path(__file__).parents[1]


def checked_by(program: str, *arguments: str) -> str:
    """What a system's own checker says of our files; empty where it has nothing to say against them."""
    if shutil.which(program) is None:
        pytest.skip(f"{program} is not here")
    done = subprocess.run([program, *arguments], capture_output=True, text=True)
    return "" if done.returncode == 0 and not done.stderr else done.stdout + done.stderr


def test_the_desktop_entry_keeps_to_its_specification() -> None:
    """Desktop Entry Specification, by freedesktop.org's own `desktop-file-validate`."""
    assert checked_by("desktop-file-validate", str(SYSTEM / f"{APP_ID}.desktop")) == ""


def test_the_metainfo_keeps_to_its_specification() -> None:
    """AppStream specification, by its own `appstreamcli`, without a network."""
    assert checked_by("appstreamcli", "validate", "--no-net", str(SYSTEM / f"{APP_ID}.metainfo.xml")) == ""


def test_the_manual_page_is_typeset_without_a_warning_and_names_every_command_and_option() -> None:
    page = SYSTEM / "chapto.1"
    assert checked_by("man", "--warnings", "-l", str(page)) == ""
    text = page.read_text("utf-8").replace("\\-", "-")
    parser = _parser()
    commands = next(a for a in parser._actions if isinstance(a, argparse._SubParsersAction))
    named = {option for a in parser._actions for option in a.option_strings}
    for name, command in commands.choices.items():
        assert f".BR {name} " in text or f".B {name}\n" in text
        named |= {option for a in command._actions for option in a.option_strings}
    assert {n for n in named if n not in text} == set()


def test_what_older_versions_put_into_the_menus_is_taken_away(tmp_path: Path) -> None:
    old = tmp_path / "applications" / "chapto.desktop"
    old.parent.mkdir()
    old.write_text("[Desktop Entry]\n")
    install(Path("/somewhere/chapto"), tmp_path)
    assert not old.exists() and all(p.is_file() for p in installed_files(tmp_path))
    uninstall(tmp_path)
    assert not [p for p in tmp_path.rglob("*") if p.is_file() and "chapto" in p.name.lower()]


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder with the wheel and the sdist of a clean copy of the sources."""
    folder = tmp_path_factory.mktemp("dist")
    listed = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, text=True)
    if listed.returncode:
        pytest.skip("only a git clone knows what belongs to the sources")
    for name in filter(None, listed.stdout.split("\0")):
        if (ROOT / name).is_file() and not name.startswith(("tests/", "docs/screenshots")):
            (folder / "source" / name).parent.mkdir(parents=True, exist_ok=True)
            shutil.copyfile(ROOT / name, folder / "source" / name)
    build = [sys.executable, "-m", "build", "--no-isolation", "--outdir", str(folder / "out"), str(folder / "source")]
    done = subprocess.run(build, capture_output=True, text=True)
    assert done.returncode == 0, done.stdout[-2000:] + done.stderr[-2000:]
    return folder / "out"


@pytest.mark.slow
def test_the_wheel_and_the_sdist_hold_everything_that_is_shipped(made: Path) -> None:
    wheel = zipfile.ZipFile(next(made.glob("*.whl"))).namelist()
    with tarfile.open(next(made.glob("*.tar.gz"))) as archive:
        sdist = archive.getnames()
    package = ROOT / "src" / "chapto"
    tracked = subprocess.run(["git", "ls-files", "-z", "src/chapto"], cwd=ROOT, capture_output=True, text=True).stdout
    for name in filter(None, tracked.split("\0")):
        if (ROOT / name).is_file():
            assert f"chapto/{(ROOT / name).relative_to(package)}" in wheel
            assert any(n.endswith(name) for n in sdist)
    assert any(n.endswith(f"data/share/applications/{APP_ID}.desktop") for n in wheel)
    assert any(n.endswith("data/share/man/man1/chapto.1") for n in wheel)
    assert any(n.endswith("licenses/LICENSE") for n in wheel) and any(n.endswith("OFL.txt") for n in wheel)


@pytest.mark.slow
@pytest.mark.parametrize("kind", ["*.whl", "*.tar.gz"])
def test_it_is_installed_and_runs_in_an_environment_of_its_own(made: Path, tmp_path: Path, kind: str) -> None:
    """The packages it depends on are lent by this environment, so that no network is needed."""
    fresh = tmp_path / "fresh"
    subprocess.run([sys.executable, "-m", "venv", str(fresh)], check=True)
    # Python 3.11 puts an older setuptools of its own into it.
    subprocess.run([str(fresh / "bin" / "pip"), "uninstall", "--quiet", "--yes", "setuptools"], check=True)
    there = next(fresh.glob("lib/python*/site-packages"))
    lent = Path(pytest.__file__).parents[1]
    (there / "lent.pth").write_text(f"{lent}\n")
    pip = [str(fresh / "bin" / "python"), "-m", "pip", "install", "--quiet", "--no-index", "--no-deps"]
    subprocess.run([*pip, "--no-build-isolation", str(next(made.glob(kind)))], check=True)
    where = [str(fresh / "bin" / "python"), "-c", "import chapto; print(chapto.__file__)"]
    assert str(there) in subprocess.run(where, capture_output=True, text=True, check=True, cwd=tmp_path).stdout
    chapto = str(fresh / "bin" / "chapto")
    said = subprocess.run([chapto, "--version"], capture_output=True, text=True, check=True, cwd=tmp_path)
    assert said.stdout.startswith("chapto ")
    footage, project = next(there.rglob("chapto/**/*.mp4")), tmp_path / "own.chapto"
    for command in (["new", str(footage), "-o", str(project)], ["inspect", str(project)]):
        done = subprocess.run([chapto, *command], capture_output=True, text=True, cwd=tmp_path)
        assert done.returncode == 0, done.stderr
    assert (fresh / "share" / "applications" / f"{APP_ID}.desktop").is_file()


def test_the_picture_of_the_layers_is_the_one_of_these_imports() -> None:
    drawn = runpy.run_path(str(ROOT / "docs" / "draw_layers.py"))["svg"]()
    kept = (ROOT / "docs" / "layers.svg").read_text("utf-8")
    # Which package imports which; how many modules do so may lag behind until `make layers`.
    lines = re.compile(r'<path d="([^"]+)"|font-weight="600">(\w+)<')
    assert set(lines.findall(kept)) == set(lines.findall(drawn))
