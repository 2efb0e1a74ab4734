"""`chapto track` follows a point and says where it is; what it can't use is one sentence."""

from __future__ import annotations

import json

import pytest

from chapto.cli.main import main
from chapto.demo.generate import FOOTAGE

VIDEO = str(FOOTAGE / "table-side-1.mp4")


def test_a_point_is_told_picture_by_picture_from_key_to_key(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["track", VIDEO, "--key", "86,0.55,0.6", "--key", "86.5,0.555,0.598", "--json"]) == 0
    points = json.loads(capsys.readouterr().out)["points"]
    assert len(points) == 16 and set(points[0]) == {"time", "x", "y", "doubt", "hidden"}
    assert (points[0]["time"], points[0]["x"], points[0]["y"]) == pytest.approx((86, 0.55, 0.6), abs=1e-4)
    assert (points[-1]["time"], points[-1]["x"], points[-1]["y"]) == pytest.approx((86.5, 0.555, 0.598), abs=1e-4)


def test_a_point_that_stays_still_is_told_as_text_too(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["track", VIDEO, "--key", "10,0.9,0.2", "--sticks", "still", "--start", "9", "--end", "11"]) == 0
    assert "0.9000  0.2000" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("keys", "said"),
    [
        (["nonsense"], "is no key"),
        (["5,2,0.5"], "is no key"),
        (["5,0.5,0.5,seen"], "is no key"),
        (["x,0.5,0.5"], "is no time"),
        (["900,0.5,0.5"], "no picture at 900"),
        (["5,0.5,0.5", "5,0.6,0.5"], "at the same second"),
    ],
)
def test_keys_that_make_no_sense_are_one_sentence(
    keys: list[str], said: str, capsys: pytest.CaptureFixture[str]
) -> None:
    given = [part for key in keys for part in ("--key", key)]
    assert main(["track", VIDEO, *given]) == 1
    told = capsys.readouterr().err
    assert said in told and len(told.strip().splitlines()) == 1
