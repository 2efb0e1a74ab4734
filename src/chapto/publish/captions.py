"""Caption files: WebVTT and SubRip, written through pysubs2."""

from __future__ import annotations

import html
from collections.abc import Mapping
from types import MappingProxyType

import pysubs2

from chapto.programme.placed import Caption


def to_webvtt(captions: tuple[Caption, ...], raised: Mapping[int, int] = MappingProxyType({})) -> str:
    """W3C WebVTT: times in milliseconds; `&`, `<` and `>` escaped, so a text can't hold an arrow. Cues that are
    `raised` (by number) begin at so many per cent of the picture's height, instead of standing at its foot."""
    written = _written(captions, "vtt", escape=True)
    if not raised:
        return written
    lines, number = written.split("\n"), -1
    for i, line in enumerate(lines):
        if "-->" in line:
            number += 1
            lines[i] = f"{line} line:{raised[number]}%" if number in raised else line
    return "\n".join(lines)


def to_subrip(captions: tuple[Caption, ...]) -> str:
    """SubRip, as commonly read; an arrow in a text would begin a new cue, and becomes another."""
    return _written(captions, "srt", escape=False)


def _written(captions: tuple[Caption, ...], kind: str, *, escape: bool) -> str:
    subs = pysubs2.SSAFile()
    for c in captions:
        text = html.escape(c.text, quote=False) if escape else c.text.replace("-->", "→")
        event = pysubs2.SSAEvent(start=round(c.start * 1000), end=round(c.end * 1000))
        event.text = text.replace("{", "(").replace("}", ")").replace("\n", "\\N")
        subs.append(event)
    return subs.to_string(kind)
