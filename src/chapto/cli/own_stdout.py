"""Standard output for Chapto alone."""

from __future__ import annotations

import os
import sys


def own_stdout() -> None:
    """Send what libraries write to file descriptor 1 by themselves to standard error.

    The solver and decoders print now and then; what somebody pipes on must hold nothing but what Chapto says.
    """
    try:
        ours = os.dup(1)
        os.dup2(2, 1)
    except OSError:
        return
    encoding = getattr(sys.stdout, "encoding", None) or "utf-8"
    sys.stdout = os.fdopen(ours, "w", 1 if os.isatty(ours) else -1, encoding=encoding)
