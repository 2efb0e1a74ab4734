"""What is painted over (or instead of) the footage at each frame: one answer for preview and render."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import QRect
from PyQt6.QtGui import QColor, QImage, QPainter

from chapto.clock.passage import Kind, PhotoCard
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.document.script import Part
from chapto.paint.box import Box
from chapto.paint.caption_plate import caption_image
from chapto.paint.card import card_image
from chapto.paint.colours import PAPER
from chapto.paint.control_box import control_image, marker_image, marker_place
from chapto.paint.label import label_height, label_image
from chapto.paint.mark_layer import MarkLayer
from chapto.paint.photo_card import photo_box, photo_card
from chapto.paint.photos import Photos
from chapto.paint.places import SAFE, even, lettered, second_place
from chapto.paint.plates import blank, caution_image, head_image, name_image
from chapto.paint.score import ScoreStrip
from chapto.programme.programme import PlacedInset, PlacedName, Programme


class Overlay:
    """The painted parts of one programme at one picture size."""

    def __init__(
        self, breakdown: Breakdown, programme: Programme, size: tuple[int, int], photos: Photos | None = None
    ) -> None:  # fmt: skip
        self._photos = photos or Photos({})
        self._b, self._programme, self.size = breakdown, programme, size
        self._lettered = lettered(size)
        self._images: dict[tuple[str, ...], QImage] = {}
        self.marks = MarkLayer(breakdown, programme, size)
        self._score = ScoreStrip(breakdown, self._lettered, programme.known)
        self._begun = [c.start for c in programme.captions]
        self._teasers = {s.id for s in breakdown.script if s.part is Part.OPENING}

    def boxes(self, frame: int) -> tuple[Box, ...]:
        """What lies over frame number `frame`: marks with their slips, score and control strip where they are wanted,
        the frame of a second picture, cautions, names, and labels, lowest row first."""
        inset = self._programme.inset_at(frame)
        found = [*self.marks.boxes(frame), *self._strips(frame), *(self._second(inset) if inset is not None else ())]
        found += self._small_photo(frame)
        width, height = self.size
        raised = 0
        for box in self._caption(frame):
            found.append(box)
            raised = box.image.height() + even(height / 90)
        if self._programme.readings.two and self._b.title and height > width:
            found.append(self._headed())
        for caution in self._programme.cautions:
            if caution.start <= frame < caution.end:
                text = caution.text
                image = self._once(("caution", text), partial(caution_image, text, self._lettered))
                y = even(height * (1 - SAFE)) - image.height() - 2 - raised
                found.append(Box(f"caution/{caution.risk}", even(width * SAFE) + 2, y, image))
                raised += image.height() + even(height / 90)
        names = [self._name(n, raised) for n in self._programme.names if n.start <= frame < n.end]
        raised += max((box.image.height() + even(height / 90) for box in names), default=0)
        return (*found, *names, *self._label_boxes(frame, raised))

    def _caption(self, frame: int) -> list[Box]:
        """What is said, where captions are painted in, at the foot."""
        if not self._b.format.burnt_captions:
            return []
        second = frame / self._programme.fps
        at = bisect_right(self._begun, second) - 1
        captions = self._programme.captions
        if at < 0 or second >= captions[at].end:
            return []
        text = captions[at].text
        image = self._once(("caption", text), lambda: caption_image(text, self.size))
        x = even((self.size[0] - image.width()) / 2)
        return [Box(f"caption/{at}", x, even(self.size[1] * (1 - SAFE)) - image.height() - 2, image)]

    def _headed(self) -> Box:
        """The title of a short held upright, on a slip above the picture for as long as it runs."""
        title = self._b.title
        image = self._once(("head", title), lambda: head_image(title, self.size))
        x = even((self.size[0] - image.width()) / 2)
        return Box("head", x, even(self.size[1] * SAFE) + 2, image)

    def _label_boxes(self, frame: int, raised: int) -> list[Box]:
        """Labels of a frame, so many pixels `raised` above what stands at its foot."""
        width, height = self.size
        row_height = label_height(self._lettered[1]) + max(height // 90, 4)
        foot = round(height * (1 - SAFE)) - raised
        found = []
        for label in self._programme.labels:
            if label.start <= frame < label.end:
                image = self._once(
                    ("label", label.text, label.by or "", label.colour),
                    partial(label_image, label.text, picture=self._lettered, by=label.by, colour=label.colour),
                )
                x = round(width * SAFE) // 2 * 2 + 2
                y = (foot - image.height() - label.row * row_height) // 2 * 2
                found.append(Box(f"label/{label.label}/{label.row}/{raised}", x, y, image))
        return found

    def _once(self, key: tuple[str, ...], make: Callable[[], QImage]) -> QImage:
        if key not in self._images:
            self._images[key] = make()
        return self._images[key]

    def _name(self, n: PlacedName, raised: int) -> Box:
        """A name at the foot: the first athlete's and voices' left, the second's right."""
        width, height = self.size
        colour = n.colour or PAPER
        image = self._once(
            ("name", n.name, n.under), lambda: name_image(n.name, n.under, n.side, colour, self._lettered)
        )
        right = n.side is Side.SECOND
        x = even(width * (1 - SAFE)) - image.width() - 2 if right else even(width * SAFE) + 2
        y = even(height * (1 - SAFE) - 2) - image.height() - raised
        return Box(f"name/{n.name}/{raised}", x, y, image)

    def _second(self, inset: PlacedInset) -> tuple[Box, ...]:
        """The edge of a small second picture; or, under each of two halves, what is tried there."""
        x, y, w, h = second_place(self.size, inset)
        if not inset.beside:
            across = self._once(("across", str(w)), lambda: _edge(w + 4, 2))
            down = self._once(("down", str(h)), lambda: _edge(2, h))
            return (
                Box("inset/top", x - 2, y - 2, across), Box("inset/foot", x - 2, y + h, across),
                Box("inset/left", x - 2, y, down), Box("inset/right", x + w, y, down),
            )  # fmt: skip
        found = []
        first = self._programme.time_map.passage_at(inset.start)
        for left, mat in ((0, first.mat_in), (x, inset.mat_in)):
            here = next((e for e in self._b.exchanges if e.start - 2 <= mat < e.end), None)
            if here is not None and here.technique:
                text = here.technique[:1].upper() + here.technique[1:]
                text += f", {here.outcome.value}" if here.outcome else ""
                colour = self._b.athlete(here.by, here.start).kit_colour if here.by else ""
                image = self._once(
                    ("half", text, here.by or "", colour),
                    partial(label_image, text, picture=self._lettered, by=here.by, colour=colour),
                )
                margin = even(self.size[0] * SAFE) + 2 if not left else even(self.size[0] * 0.02)
                found.append(Box(f"half/{text}", left + margin, even(self.size[1] * SAFE) + 2, image))
        return tuple(found)

    def _strips(self, frame: int) -> list[Box]:
        """The score strip in the middle of the upper edge, where footage itself seldom carries names or boards. The
        control strip below at the left. Neither in an opening, as that would tell the end."""
        found: list[Box] = []
        passage = self._programme.time_map.passage_at(frame)
        inset = self._programme.inset_at(frame)
        section = self._programme.section_at(frame)
        if (
            not passage.footage
            or (inset is not None and inset.beside)
            or (section and section.section in self._teasers)
        ):
            return found
        x, y = even(self.size[0] * SAFE) + 2, even(self.size[1] * SAFE) + 2
        if self._b.score_strip and (strip := self._score.at(passage.mat_at(frame))):
            found.append(Box(strip[0], even((self.size[0] - strip[1].width()) / 2), y, strip[1]))
            y += strip[1].height() + max(even(self.size[1] / 90), 4)
        return [*found, *(self._control(passage.mat_at(frame), x, y) if self._b.control_strip else ())]

    def _control(self, mat: Fraction, x: int, y: int) -> tuple[Box, ...]:
        """The strip of the round on the screen and the marker in it."""
        here = next((r for r in self._b.rounds if r.start <= mat < r.end), None)
        if here is None:
            return ()
        strip = self._once(
            ("control", here.id), lambda: control_image(self._b, here, self.size, self._programme.known.lexicon)
        )
        at = marker_place(here, mat, self.size)
        return (
            Box(f"control/{here.id}", x, y, strip),
            Box("control/marker", x + at, y, marker_image(self.size)),
        )

    def card(self, frame: int) -> tuple[str, QImage] | None:
        """The title card in the place of the footage at `frame`, with its key; None where footage is shown."""
        passage = self._programme.time_map.passage_at(frame)
        if passage.kind is not Kind.CARD:
            return None
        if passage.photo is not None:
            done = (frame - passage.watch_in) / max(passage.frames - 1, 1) if passage.photo.push else 0.0
            return self._photo(passage.photo, done)
        threads = (self._b.first.kit_colour, self._b.second.kit_colour)
        if passage.text:
            title, _, under = passage.text.partition("\n")
        else:
            section = self._programme.section_at(frame)
            title = section.title if section and section.title else self._b.title
            under = self._b.part if title != self._b.title else f"{self._b.first.name} and {self._b.second.name}"
            if self._b.part and title == self._b.title:
                under = f"{under}  ·  {self._b.part}"
        key = ("card", title, under)
        # What has a text of its own, the credits, leaves its foot to the line of care.
        laces = threads if not passage.text else None
        return "\n".join(key), self._once(key, lambda: card_image(title, under, picture=self.size, threads=laces))

    def _photo(self, shown: PhotoCard, pushed: float) -> tuple[str, QImage]:
        """One or two photos in the place of the picture; while one comes nearer each frame is another picture."""
        ids = [shown.photo, *([shown.beside] if shown.beside else [])]
        make = partial(photo_card, [(self._b.photo(i).name, self._photos.image(i)) for i in ids], self.size, pushed)
        key = ("photo", *ids)
        if shown.push:
            return f"{'/'.join(key)}/{pushed:.5f}", make()
        return "/".join(key), self._once(key, make)

    def _small_photo(self, frame: int) -> list[Box]:
        """A small photo over the footage."""
        inset = self._programme.photo_at(frame)
        image = self._photos.image(inset.photo) if inset is not None else None
        if inset is None or image is None:
            return []
        x, y, w, h = second_place(self.size, inset)
        box = self._once(("small", inset.photo), lambda: photo_box(image, (w, h)))
        return [Box(f"photo/{inset.photo}", even(x + w - box.width()), even(y), box)]


def _edge(width: int, height: int) -> QImage:
    image = blank(width, height)
    image.fill(QColor(PAPER))
    return image


def paint_boxes(painter: QPainter, boxes: tuple[Box, ...], area: QRect, size: tuple[int, int]) -> None:
    """Paint `boxes`, made for a picture of `size`, over a picture that fills `area`."""
    for box in boxes:
        sx, sy = area.width() / size[0], area.height() / size[1]
        target = QRect(
            round(area.x() + box.x * sx), round(area.y() + box.y * sy),
            round(box.image.width() * sx), round(box.image.height() * sy),
        )  # fmt: skip
        painter.drawImage(target, box.image)
