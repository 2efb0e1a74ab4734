"""`chapto shelf` from the command line."""

from __future__ import annotations

import json
from datetime import date
from pathlib import Path

import pytest

from chapto.cli.main import main
from chapto.demo.generate import FOOTAGE
from chapto.demo.shelf_rounds import round_breakdown
from chapto.demo.story import demo_breakdown
from chapto.media.filmed_on import filmed_on
from chapto.media.probe import probe
from chapto.store.schema import encode


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    made = tmp_path / "breakdowns"
    made.mkdir()
    for i in range(3):
        b = round_breakdown(f"Round {i}", "Club", i, day=date(2026, 3 + i, 1), out=True)
        (made / f"r{i}.chapto").write_bytes(encode(b))
    return made


def said(capsys: pytest.CaptureFixture[str]) -> str:
    return capsys.readouterr().out


def test_from_a_folder_to_examples_coverage_and_open_formats(
    folder: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["shelf", "add", str(folder)]) == 0 and "3 breakdowns were read" in said(capsys)
    assert main(["shelf", "search", "half guard", "landed", "--json"]) == 0
    found = json.loads(said(capsys))
    assert [f["asks"] for f in found["asked"]["filters"]] == ["position", "outcome"]
    assert found["found"] and all(f["outcome"] == "landed" for f in found["found"])
    assert main(["shelf", "search", "nothing", "like", "this"]) == 0 and "Nothing" in said(capsys)
    assert main(["shelf", "coverage", "--json"]) == 0
    covered = json.loads(said(capsys))
    assert covered["breakdowns"] == 3 and any(n["seen"] for n in covered["nodes"])
    assert main(["shelf", "coverage"]) == 0 and "tried" in said(capsys)
    assert main(["shelf", "export", "-o", str(tmp_path / "out")]) == 0
    assert {"exchanges.csv", "exchanges.jsonl", "plan.ics"} <= {Path(p).name for p in said(capsys).splitlines()}
    (tmp_path / "out" / "plan.csv").write_text("mine")
    assert main(["shelf", "export", "-o", str(tmp_path / "out")]) == 1
    assert "already" in capsys.readouterr().err and (tmp_path / "out" / "plan.csv").read_text() == "mine"
    assert main(["shelf", "export", "-o", str(tmp_path / "out"), "--force"]) == 0
    said(capsys)
    assert main(["shelf", "forget", "Moss Tarrant"]) == 0 and "3 breakdowns still do" in said(capsys)
    assert main(["shelf", "search", "Moss", "--json"]) == 0 and not json.loads(said(capsys))["found"]


def test_a_shelf_may_lie_elsewhere_and_what_is_wrong_is_a_sentence(
    folder: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    at = ["shelf", "--at", str(tmp_path / "disk")]
    assert main([*at, "add", str(tmp_path / "nowhere")]) == 1
    assert "is no folder." in capsys.readouterr().err
    (folder / "bad.chapto").write_bytes(b"{}")
    assert main([*at, "add", str(folder)]) == 0
    assert "bad.chapto" in capsys.readouterr().err
    assert (tmp_path / "disk" / "index.sqlite").exists() and not (tmp_path / "data").exists()


def test_the_day_of_a_breakdown_is_the_recorders() -> None:
    project = FOOTAGE / "x.chapto"
    b = demo_breakdown(FOOTAGE)
    made = probe(FOOTAGE / "table-side-1.mp4").made
    assert filmed_on(b, project) == (made.date().isoformat() if made is not None else "")
    assert filmed_on(b, Path("/nowhere/x.chapto")) == ""
