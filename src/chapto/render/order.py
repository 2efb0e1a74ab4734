"""What a process needs to make the frames of a programme, as one packet of bytes."""

from __future__ import annotations

import hashlib
import pickle
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.paint.photos import Photos
from chapto.programme.programme import Programme
from chapto.render.frames import ProgrammeFrames


@dataclass(frozen=True)
class Order:
    """A programme with its files: `places` by footage id, `photos` by photo id. It is made from `quick`
    pictures where there are some, if that is said."""

    b: Breakdown
    programme: Programme
    places: Mapping[str, Path]
    photos: Mapping[str, Path]
    quick: bool = False

    def frames(self) -> ProgrammeFrames:
        """What makes its frames."""
        return ProgrammeFrames(self.b, self.programme, dict(self.places), Photos(self.photos), quick=self.quick)

    def packed(self) -> bytes:
        """It as bytes, for another process of ours."""
        return pickle.dumps((self.b, self.programme, dict(self.places), dict(self.photos), self.quick))

    @classmethod
    def unpacked(cls, data: bytes) -> Order:
        """From bytes that `packed` made; never to be used on bytes from elsewhere."""
        return cls(*pickle.loads(data))


def name_of(packed: bytes) -> str:
    """A name by which a process knows an order again."""
    return hashlib.blake2b(packed, digest_size=16).hexdigest()
