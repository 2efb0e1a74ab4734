"""Edits of what goes out, and the record of what went out."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, Publishing
from chapto.document.picture_format import Codec
from chapto.document.publishing import Published, Short, Thumbnail


def set_picture(
    b: Breakdown,
    *,
    size: tuple[int, int] | None = None,
    fps: Fraction | None = None,
    codec: Codec | None = None,
    quality: int | None = None,
    burnt_captions: bool | None = None,
) -> Breakdown:
    """With another size (width, height), rate, code or quality of the finished video; what is None stays."""
    f = b.format
    width, height = size or (f.width, f.height)
    made = replace(
        f,
        width=width,
        height=height,
        fps=f.fps if fps is None else fps,
        codec=f.codec if codec is None else codec,
        quality=f.quality if quality is None else quality,
        burnt_captions=f.burnt_captions if burnt_captions is None else burnt_captions,
    )
    return replace(b, format=made)


def set_thumbnail(b: Breakdown, thumbnail: Thumbnail) -> Breakdown:
    """With another picture that stands for the video."""
    if thumbnail.footage:
        b.camera(thumbnail.footage)
    return _with(b, replace(b.publishing, thumbnail=replace(thumbnail, title=thumbnail.title.strip())))


def set_shorts(b: Breakdown, shorts: tuple[Short, ...] | None) -> Breakdown:
    """With these shorts; None leaves it to Chapto."""
    return _with(b, replace(b.publishing, shorts=shorts))


def note_published(b: Breakdown, published: Published) -> Breakdown:
    """With what went out written down; the same address again takes the place of what was known of it."""
    kept = tuple(p for p in b.publishing.published if p.address != published.address)
    return _with(b, replace(b.publishing, published=(*kept, published)))


def note_withdrawn(b: Breakdown, address: str, at: str) -> Breakdown:
    """With what went out to an address taken back at a time (UTC, ISO 8601)."""
    if all(p.address != address for p in b.publishing.published):
        raise DocumentError("Nothing is known to have gone out to that address.")
    told = (replace(p, withdrawn=at) if p.address == address else p for p in b.publishing.published)
    return _with(b, replace(b.publishing, published=tuple(told)))


def _with(b: Breakdown, publishing: Publishing) -> Breakdown:
    return replace(b, publishing=publishing)
