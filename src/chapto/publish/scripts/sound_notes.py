"""What captions write of sounds that nobody says: “[Music]”."""

from __future__ import annotations

import re

_SOUND = re.compile(
    r"\[\s*_*\s*(?:music|applause|laughter|laughs?|laughing|cheering|cheers|inaudible|crosstalk|noise|silence|whistle|"
    r"buzzer|bell|foreign|sighs?|coughs?|clears throat)[^\]\n]{0,30}\]|[♪♫]+",
    re.IGNORECASE,
)


def without_sounds(text: str) -> str:
    """The words alone."""
    return " ".join(_SOUND.sub(" ", text).split()) if "[" in text or "♪" in text or "♫" in text else text
