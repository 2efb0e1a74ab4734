"""Cutting a programme into pieces that are encoded apart, each known by what goes into it.

A piece depends on nothing but its own frames and the encoding: the same piece of another programme, or of this one
after an edit elsewhere, has the same digest, and needn't be encoded again.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import accumulate, pairwise
from math import ceil, floor

import av

from chapto import __version__
from chapto.programme.programme import Programme
from chapto.render.encodings import Encoding

METHOD = 2
"""Counts up when frames or pieces are made in another way."""
SHORTEST, LONGEST = Fraction(1), Fraction(10)
"""Seconds of a piece: shorter ones cost much in key pictures, longer ones much after an edit."""
STILL = Fraction(3, 2)
"""Seconds from which equal frames are encoded once and shown again and again."""
GROUP = Fraction(2, 3), Fraction(4, 3)
"""Seconds that such a group lasts: from, to."""


@dataclass(frozen=True)
class Piece:
    """Frames `start` up to, not including, `stop`. Pieces of one digest are encoded once."""

    start: int
    stop: int
    digest: str

    @property
    def frames(self) -> int:
        """How many there are."""
        return self.stop - self.start


def still_groups(frames: int, fps: Fraction) -> tuple[int, ...]:
    """The lengths in which a still of so many frames is cut. There are at most two of them, so that few frames have to
    be encoded however long it lasts."""
    low, high = (frames / (seconds * fps) for seconds in reversed(GROUP))
    counts = range(max(ceil(low), 1), max(floor(high), 1) + 1) or range(1, 2)

    def encoded(count: int) -> int:
        length, longer = divmod(frames, count)
        return 2 * length + 1 if longer else length

    count = min(counts, key=encoded)
    length, longer = divmod(frames, count)
    return (length,) * (count - longer) + (length + 1,) * longer


def versions() -> str:
    """All that an encoded frame depends on beside its content: the libraries, and how frames are made."""
    libraries = ",".join(f"{name}{'.'.join(map(str, number))}" for name, number in sorted(av.library_versions.items()))
    return f"{__version__}/{METHOD}/{av.__version__}/{libraries}"


def edges_of(p: Programme) -> Iterator[int]:
    """Frames at which what is shown may change."""
    yield from (x.watch_in for x in p.passages)
    for shown in (p.labels, p.names, p.cautions, p.marks, p.insets):
        yield from (edge for x in shown for edge in (x.start, x.end))


def pieces_of(contents: Sequence[bytes], edges: Iterable[int], encoding: Encoding) -> tuple[Piece, ...]:
    """The pieces of a programme whose frames have `contents`. `edges` are frames at which something may change; a piece
    begins there where none gets shorter than `SHORTEST` by it."""
    fps = encoding.fps
    shortest, longest, still = (round(s * fps) for s in (SHORTEST, LONGEST, STILL))
    wanted = sorted({e for e in edges if 0 < e < len(contents)})
    # What the sound and the container are does not matter to the pictures.
    told = (versions(), encoding.codec, encoding.options)
    salt = repr((*told, encoding.width, encoding.height, fps)).encode()
    found = []
    for start, stop, same in _stretches(contents, shortest, still):
        if same:
            cuts = list(accumulate(still_groups(stop - start, fps), initial=start))
        else:
            cuts = _cuts(contents, start, stop, wanted, shortest, longest)
        found += [Piece(a, z, _digest(salt, contents[a:z])) for a, z in pairwise(cuts)]
    return tuple(found)


def _stretches(contents: Sequence[bytes], shortest: int, still: int) -> list[tuple[int, int, bool]]:
    """(start, stop, whether all frames are the same) one after another. What moves for less than `shortest` takes some
    frames of the still beside it along."""
    runs, start = [], 0
    for i in range(1, len(contents) + 1):
        if i == len(contents) or contents[i] != contents[start]:
            runs.append((start, i))
            start = i
    found: list[tuple[int, int, bool]] = []
    for a, z in runs:
        same = z - a >= still
        if same and found and not found[-1][2] and found[-1][1] - found[-1][0] < shortest:
            begin = found[-1][0]
            a = begin + shortest
            found[-1] = (begin, a, False)
            same = z - a >= shortest
        if not same and found and not found[-1][2]:
            found[-1] = (found[-1][0], z, False)
        else:
            found.append((a, z, same))
    if len(found) > 1 and not found[-1][2] and found[-1][1] - found[-1][0] < shortest:
        (a, _, _), (_, z, _) = found[-2:]
        cut = max(z - shortest, a)
        found[-2:] = [(a, cut, True), (cut, z, False)] if cut - a >= shortest else [(a, z, False)]
    return found


def _cuts(
    contents: Sequence[bytes], start: int, stop: int, edges: Sequence[int], shortest: int, longest: int
) -> list[int]:
    """Where a stretch that moves is cut, both ends included."""
    cuts = [start]
    for edge in edges:
        if cuts[-1] + shortest <= edge <= stop - shortest:
            cuts.append(edge)
    cuts.append(stop)
    fine = [start]
    for z in cuts[1:]:
        while z - fine[-1] > longest:
            # By what is shown, not by where it stands: the same footage elsewhere is cut at the same pictures.
            near = range(fine[-1] + longest // 2, min(fine[-1] + longest, z - shortest) + 1)
            fine.append(min(near, key=lambda i: (contents[i], i)))
        fine.append(z)
    return fine


def _digest(salt: bytes, contents: Sequence[bytes]) -> str:
    made = hashlib.blake2b(salt, digest_size=20)
    for content in contents:
        made.update(content)
    return made.hexdigest()
