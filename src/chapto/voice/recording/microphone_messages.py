"""What the window and the process that records say to each other, free of Qt.

From the process: `HEADER` and that many bytes. To it: nothing; it ends when its standard input does.
"""

from __future__ import annotations

import struct
from enum import IntEnum

HEADER = struct.Struct("<BI")
"""Kind of message, bytes that follow."""


class Told(IntEnum):
    """Devices and formats as JSON, samples as the format says, and a reason why nothing more comes."""

    DEVICES = 1
    FORMAT = 2
    DATA = 3
    ENDED = 4
