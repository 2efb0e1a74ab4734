"""What the window and the process that plays say to each other, free of Qt.

To the process: `HEADER` and that many bytes of 16-bit stereo. From it: a line of JSON, `{"device": NAME}` (empty:
there is none) or `{"stream": N, "played": SECONDS, "at": MONOTONIC, "dead": BOOL}`.
"""

from __future__ import annotations

import struct
from enum import IntEnum

HEADER = struct.Struct("<BII")
"""Kind of message, number of the stream, bytes that follow."""


class Message(IntEnum):
    """Begin a stream, more of it, fall silent."""

    START = 1
    DATA = 2
    STOP = 3
