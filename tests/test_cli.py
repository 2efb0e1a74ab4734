"""The command line: what it prints, and its exit status."""

import json
from pathlib import Path

import jsonschema
import pytest
from msgspec.structs import replace

from chapto.cli.main import main
from chapto.store.schema import encode
from tests.document.samples import small
from tests.media.clips import Clip, make


def said(capsys: pytest.CaptureFixture[str]) -> tuple[str, str]:
    done = capsys.readouterr()
    return done.out, done.err


def test_the_schema_is_printed_and_the_demo_follows_it(demo_file: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["schema"]) == 0
    schema = json.loads(said(capsys)[0])
    jsonschema.validate(json.loads(demo_file.read_text()), schema)


def test_inspect_prints_json_or_lines(demo_file: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["inspect", str(demo_file), "--json"]) == 0
    found = json.loads(said(capsys)[0])
    assert found["passages"][-1]["kind"] == "card"
    assert main(["inspect", str(demo_file)]) == 0
    text = said(capsys)[0]
    assert "Two knee slides: " in text and "hold" in text and "lag +0.0" in text


@pytest.mark.parametrize(
    ("arguments", "sentence"),
    [
        (["inspect", "gone.chapto"], "can't be opened"),
        (["render", "gone.chapto", "-o", "out.mp4"], "can't be opened"),
        (["new", "gone.mp4", "-o", "new.chapto"], "is not there"),
        (["new", "gone.mp4", "-o", "new.txt"], "should end in .chapto"),
        (["new", "gone.mp4", "-o", "nowhere/new.chapto"], "is not there"),
    ],
)
def test_failed_work_is_status_1_and_one_sentence(
    arguments: list[str],
    sentence: str,
    tmp_path: Path,
    capsys: pytest.CaptureFixture[str],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.chdir(tmp_path)
    assert main(arguments) == 1
    out, err = said(capsys)
    assert out == "" and sentence in err and err.count("\n") == 1


@pytest.mark.parametrize("arguments", [["render"], ["new", "a.mp4"], ["--nonsense"], ["inspect"]])
def test_wrong_use_is_status_2(arguments: list[str], capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as caught:
        main(arguments)
    assert caught.value.code == 2
    assert "usage" in said(capsys)[1]


def test_new_does_not_write_over_a_file(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    target = tmp_path / "there.chapto"
    target.write_bytes(encode(small()))
    clip = make(tmp_path / "c.mp4", Clip(frames=5))
    assert main(["new", str(clip), "-o", str(target)]) == 1
    assert "is there already" in said(capsys)[1]
    assert target.read_bytes() == encode(small())


def test_new_takes_several_videos_and_stores_relative_paths(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "media").mkdir()
    clips = [make(tmp_path / "media" / f"{n}.mp4", Clip(frames=4 + n, sound=None)) for n in (1, 2)]
    assert main(["new", *map(str, clips), "-o", str(tmp_path / "two.chapto")]) == 0
    footage = json.loads((tmp_path / "two.chapto").read_text())["breakdown"]["footage"]
    assert [f["path"] for f in footage] == ["media/1.mp4", "media/2.mp4"]
    assert [f["offset"] for f in footage] == ["0", "60"]


def test_opening_a_window_without_a_display_is_said(
    demo_file: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
        monkeypatch.delenv(name, raising=False)
    assert main([str(demo_file)]) == 1
    assert "no display" in said(capsys)[1]


def test_a_damaged_project_is_refused_untouched(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    project = tmp_path / "bad.chapto"
    data = encode(replace(small(), title="Bad"))[:-200]
    project.write_bytes(data)
    assert main(["inspect", str(project)]) == 1
    assert "is damaged or cut off" in said(capsys)[1]
    assert project.read_bytes() == data


def test_desktop_files_go_under_the_given_folder_and_away_again(tmp_path: Path) -> None:
    from chapto.app.desktop import install, uninstall

    files = install(Path("/somewhere/chapto"), tmp_path)
    assert all(p.is_file() and tmp_path in p.parents for p in files)
    assert 'Exec="/somewhere/chapto" %f' in files[0].read_text()
    assert "*.chapto" in files[1].read_text()
    uninstall(tmp_path)
    assert not any(p.exists() for p in files)
