"""Caption files: WebVTT and SubRip, written through pysubs2."""

from __future__ import annotations

import html

import pysubs2

from chapto.programme.programme import Caption


def to_webvtt(captions: tuple[Caption, ...]) -> str:
    """W3C WebVTT: times in milliseconds; `&`, `<` and `>` escaped, so a text can't hold an arrow."""
    return _written(captions, "vtt", escape=True)


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
