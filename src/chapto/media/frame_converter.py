"""Bringing decoded frames into the shape that is wanted: rotated, turned back from a mirror, deinterlaced, scaled,
padded, converted."""

from __future__ import annotations

from fractions import Fraction
from functools import lru_cache

import av
import av.filter
from av.video.reformatter import ColorRange, Colorspace

from chapto.media.high_range import curve_of, table_file

GROUND = (16, 23, 21)
"""What lies round pictures of another shape, as red, green and blue: the deep ground of the window."""
_UNSPECIFIED = 2
"""`AVCOL_SPC_UNSPECIFIED` of libavutil."""


class FrameConverter:
    """One frame in, one frame out, `width` × `height` in `pix_fmt`, on `GROUND` where the shapes differ.

    A graph is built for the first frame and again whenever the frames' own shape or colours change.
    """

    def __init__(
        self,
        width: int,
        height: int,
        pix_fmt: str,
        *,
        rotation: int = 0,
        aspect: Fraction | None = None,
        mirrored: bool = False,
    ) -> None:
        self.width, self.height, self.pix_fmt = width, height, pix_fmt
        self._mirrored = mirrored
        self._rotation, self._aspect = rotation % 360, aspect or Fraction(1)
        self._graph: av.filter.Graph | None = None
        self._built_for: tuple[object, ...] = ()

    def shape(self, frame: av.VideoFrame) -> av.VideoFrame:
        """`frame` as wanted; its time stamp is kept."""
        colours = (frame.colorspace, frame.color_range, frame.color_trc)
        kind = (frame.width, frame.height, frame.format.name, bool(frame.interlaced_frame), *map(int, colours))
        if self._graph is None or kind != self._built_for:
            self._graph, self._built_for = self._build(frame), kind
        stamp, base = frame.pts, frame.time_base
        frame.pts, frame.time_base = 0, Fraction(1, 1000)
        self._graph.vpush(frame)
        shaped = self._graph.vpull()
        frame.pts, frame.time_base = stamp, base
        shaped.pts, shaped.time_base = stamp, base
        return shaped

    def _is_right_already(self, frame: av.VideoFrame) -> bool:
        """Whether the colours need no conversion."""
        is_bt709 = frame.colorspace == Colorspace.ITU709 or (
            frame.colorspace == _UNSPECIFIED and is_high_definition(frame)
        )
        return frame.format.name == self.pix_fmt and is_bt709 and frame.color_range != ColorRange.JPEG

    def _build(self, frame: av.VideoFrame) -> av.filter.Graph:
        graph = av.filter.Graph()
        source = graph.add(
            "buffer",
            f"video_size={frame.width}x{frame.height}:pix_fmt={frame.format.name}:time_base=1/1000:pixel_aspect=1/1",
        )
        chain = [source]

        def then(name: str, arguments: str = "") -> None:
            chain.append(graph.add(name, arguments) if arguments else graph.add(name))
            chain[-2].link_to(chain[-1])

        if frame.interlaced_frame:
            # One field: half the lines, but no combing and no frame of delay.
            then("field", "type=top")
        for direction in {90: ["cclock"], 180: ["clock", "clock"], 270: ["clock"]}.get(self._rotation, []):
            then("transpose", f"dir={direction}")
        if self._mirrored:
            then("hflip")
        shown_w, shown_h = frame.width * self._aspect, Fraction(frame.height)
        if self._rotation % 180:
            shown_w, shown_h = shown_h, shown_w
        w, h = fitted_size(shown_w, shown_h, self.width, self.height)
        curve = curve_of(int(frame.color_trc))
        if curve is not None:
            # The table takes the file's own red, green and blue, and gives those of BT.709.
            then("scale", f"w={w}:h={h}:flags=bicubic:in_color_matrix=bt2020:out_range=pc")
            then("format", "pix_fmts=gbrp16le")
            place = str(table_file(curve)).replace("\\", "\\\\").replace(":", "\\:").replace("'", "\\'")
            then("lut3d", f"file={place}:interp=tetrahedral")
            then("scale", f"w={w}:h={h}:flags=bicubic:out_color_matrix=bt709{_range(self.pix_fmt)}")
        elif len(chain) > 1 or (w, h) != (frame.width, frame.height) or not self._is_right_already(frame):
            then("scale", f"w={w}:h={h}:flags=bicubic{_matrices(frame, self.pix_fmt)}")
        then("format", f"pix_fmts={self.pix_fmt}")
        if (w, h) != (self.width, self.height):
            x, y = (self.width - w) // 4 * 2, (self.height - h) // 4 * 2
            then("pad", f"w={self.width}:h={self.height}:x={x}:y={y}:color=0x{bytes(GROUND).hex()}")
        then("buffersink")
        graph.configure()
        return graph


def _range(pix_fmt: str) -> str:
    return ":out_range=tv" if pix_fmt.startswith("yuv") else ":out_range=pc"


def _matrices(frame: av.VideoFrame, pix_fmt: str) -> str:
    """Colour matrices of a conversion. High definition that does not say is BT.709, as players take it."""
    source = "bt709" if frame.colorspace == _UNSPECIFIED and is_high_definition(frame) else "auto"
    target = ":out_color_matrix=bt709:out_range=tv" if pix_fmt.startswith("yuv") else ""
    return f":in_color_matrix={source}{target}"


def is_high_definition(frame: av.VideoFrame) -> bool:
    """Whether a frame is larger than standard definition (at most 576 lines, ITU-R BT.601)."""
    return max(frame.height, frame.width) > 1024 or min(frame.height, frame.width) > 576


@lru_cache(maxsize=256)
def fitted_size(width: Fraction | int, height: Fraction | int, into_w: int, into_h: int) -> tuple[int, int]:
    """The largest even size of the shape `width`:`height` that fits into `into_w` × `into_h`."""
    scale = min(Fraction(into_w) / width, Fraction(into_h) / height)
    return max(round(width * scale / 2) * 2, 2), max(round(height * scale / 2) * 2, 2)
