"""Run by `test_hostile.py` in a process of its own: opens every file named on standard input, a line each, as the
application would, and prints how long the longest took and the most memory used."""

from __future__ import annotations

import sys
import time
from pathlib import Path

from chapto.errors import ChaptoError
from chapto.media.probe import probe
from chapto.media.reader import FrameReader
from chapto.media.sound import load_sound


def handle(path: Path, number: int) -> str:
    """Probe, show three pictures, read the sound; "used" or the sentence that refused it."""
    try:
        probe(path)
        reader = FrameReader(path)
        try:
            for index in (0, reader.frames // 2, reader.frames - 1):
                reader.picture(index, 96, 54)
        finally:
            reader.close()
        load_sound(path, f"hostile-{number}")
    except ChaptoError as error:
        return str(error)
    return "used"


def main() -> None:
    longest, answers = 0.0, []
    for number, line in enumerate(sys.stdin.read().splitlines()):
        start = time.monotonic()
        answers.append(handle(Path(line), number))
        took = time.monotonic() - start
        if took > longest:
            longest = took
            print(f"slow {took:.2f} {line}", file=sys.stderr)
    for answer in answers:
        print(answer)
    status = Path("/proc/self/status").read_text()
    kibibytes = next(line.split()[1] for line in status.splitlines() if line.startswith("VmHWM"))
    print(f"{longest:.3f} {int(kibibytes) * 1024}")


if __name__ == "__main__":
    main()
