"""What is painted into the picture can be read, and stays where it may be."""

import unicodedata
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PyQt6.QtGui import QColor, QImage, QPainter, QRawFont

from chapto.clock.passage import Kind
from chapto.demo.story import demo_breakdown
from chapto.document.people import Side
from chapto.document.script import Part
from chapto.media.frame_converter import GROUND
from chapto.paint import colours, fonts
from chapto.paint.card import card_image
from chapto.paint.colours import DEEP
from chapto.paint.fonts import NUMBERS, TEXT, load_fonts
from chapto.paint.label import label_image
from chapto.paint.overlay import Overlay, paint_boxes
from chapto.paint.score import ScoreStrip
from chapto.programme.compile import compile_programme
from chapto.render.blend import blend, frame_from_rgb, frame_of_ground, planes_of, rgba_of, yuv_box
from tests.document.samples import small


@pytest.mark.parametrize(
    ("colour", "ratio"), [("#000000", 21.0), ("#767676", 4.54), ("#777777", 4.48), ("#ffffff", 1.0)]
)
def test_contrast_is_computed_as_wcag_does(colour: str, ratio: float) -> None:
    """W3C WCAG 2.x: black on white 21:1, #767676 4.54:1, #777777 4.48:1."""
    assert colours.contrast(colour, "#ffffff") == pytest.approx(ratio, abs=0.006)


@pytest.mark.parametrize(
    ("letters", "ground"),
    [
        (colours.INK, colours.PAPER), (colours.INK_SOFT, colours.PAPER), (colours.INK_SOFT, colours.PAPER_DEEP),
        (colours.ON_DARK, colours.SPRUCE), (colours.ON_DARK_SOFT, colours.SPRUCE), (colours.ON_DARK, colours.DEEP),
        *((colours.readable_on(c), c) for c in colours.PASSAGES.values()),
        *((colours.readable_on(c), c) for c in (colours.FIRST, colours.SECOND)),
    ],
)  # fmt: skip
def test_all_letters_reach_four_and_a_half_to_one(letters: str, ground: str) -> None:
    assert colours.contrast(letters, ground) >= 4.5


def test_the_shipped_fonts_are_there_with_their_licence(qapp: object) -> None:
    assert {TEXT, NUMBERS} <= set(load_fonts())
    folder = Path(colours.__file__).parent / "fonts"
    assert "SIL OPEN FONT LICENSE" in (folder / "OFL.txt").read_text().upper()


@pytest.mark.parametrize("size", [(1280, 720), (640, 360), (720, 1280), (1920, 1080)])
def test_labels_stay_inside_the_middle_ninety_percent(qapp: object, size: tuple[int, int]) -> None:
    """EBU R 95 and SMPTE ST 2046-1."""
    b = small()
    p = compile_programme(b, {})
    (label,) = p.labels
    (box,) = Overlay(b, p, size).boxes(label.start)
    assert box.x >= 0.05 * size[0] and box.x + box.image.width() <= 0.95 * size[0]
    assert box.y >= 0.05 * size[1] and box.y + box.image.height() <= 0.95 * size[1] + 1
    assert box.x % 2 == box.y % 2 == box.image.width() % 2 == box.image.height() % 2 == 0
    assert Overlay(b, p, size).boxes(label.start - 1) == ()
    assert Overlay(b, p, size).boxes(label.end) == ()


def test_a_very_long_label_is_cut_not_spilled(qapp: object) -> None:
    image = label_image("A name " * 40, picture=(1280, 720))
    assert image.width() <= 0.9 * 1280 + 2


def test_label_letters_are_ink_on_paper(qapp: object) -> None:
    pixels = rgba_of(label_image("Knee slide", picture=(1280, 720), by=Side.FIRST, colour="#E3A33A"))
    inside = pixels[12:-12, 60:-14, :3].reshape(-1, 3)
    assert inside.min() < 60 and np.median(inside) > 230


def test_a_card_shows_its_words(qapp: object) -> None:
    with_words = rgba_of(card_image("Two knee slides", "mat 2", picture=(640, 360), threads=("#E3A33A", "#3AA6B5")))
    without = rgba_of(card_image("", "", picture=(640, 360), threads=("#E3A33A", "#3AA6B5")))
    different = np.any(with_words != without, axis=2)
    assert different.sum() > 500
    rows, columns = np.nonzero(different)
    assert columns.min() >= 32 and columns.max() <= 608 and rows.max() < 300


def test_blending_in_yuv_gives_what_painting_gives(qapp: object) -> None:
    """The render lays boxes over YUV planes, the preview paints them with QPainter: the same picture comes out."""
    b = small()
    p = compile_programme(b, {})
    size = (640, 360)
    boxes = Overlay(b, p, size).boxes(p.labels[0].start)
    ground = QImage(*size, QImage.Format.Format_RGB32)
    ground.fill(0xFF3E6B8A)
    painted = QImage(ground)
    painter = QPainter(painted)
    paint_boxes(painter, boxes, painted.rect(), size)
    painter.end()
    wanted = frame_from_rgb(painted)
    frame = frame_from_rgb(ground)
    for box in boxes:
        blend(frame, yuv_box(box.image), box.x, box.y)
    for got, want in zip(planes_of(frame), planes_of(wanted), strict=True):
        assert np.abs(got.astype(int) - want.astype(int)).max() <= 3


def test_nothing_outside_the_box_is_touched(qapp: object) -> None:
    image = QImage(20, 10, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(0xFFFFFFFF)
    ground = QImage(64, 64, QImage.Format.Format_RGB32)
    ground.fill(0)
    frame = frame_from_rgb(ground)
    blend(frame, yuv_box(image), 30, 40)
    luma = planes_of(frame)[0]
    assert (luma[40:50, 30:50] >= 234).all()
    luma[40:50, 30:50] = 16
    assert (luma == 16).all()


def test_two_labels_at_once_stand_one_above_the_other(qapp: object) -> None:
    from msgspec.structs import replace

    from chapto.document.breakdown import Label

    b = replace(small(), labels=(*small().labels, Label(id="l2", moment="m1", text="Underhook")))
    p = compile_programme(b, {})
    low, high = Overlay(b, p, (1280, 720)).boxes(max(x.start for x in p.labels))
    assert high.y + high.image.height() <= low.y
    assert Fraction(p.labels[0].start) == p.labels[1].start


def test_the_control_strip_is_painted_inside_the_safe_area_with_a_moving_marker() -> None:
    """Lettering inside the middle 90 % (EBU R 95, SMPTE ST 2046-1)."""
    b = replace(demo_breakdown(Path.cwd()), control_strip=True, score_strip=False)
    p = compile_programme(b, {})
    overlay = Overlay(b, p, (1280, 720))
    moving = [x for x in p.passages if x.kind is Kind.RUN and x.frames > 40]
    places = []
    for frame in (moving[2].watch_in + 1, moving[2].watch_in + 40, moving[-1].watch_in + 1):
        strip, marker = overlay.boxes(frame)[:2]
        assert strip.x >= 64 and strip.y >= 36 and strip.x + strip.image.width() <= 1216
        assert strip.x <= marker.x <= strip.x + strip.image.width() - 2
        places.append(marker.x)
    assert places[0] <= places[1] < places[2]
    colours = {strip.image.pixelColor(x, strip.image.height() // 4).name() for x in range(0, strip.image.width(), 2)}
    assert "#e3a33a" in colours
    assert not [x for x in Overlay(replace(b, control_strip=False), p, (1280, 720)).boxes(1) if "control" in x.key]


@pytest.mark.parametrize("who", [Side.FIRST, Side.SECOND, None])
def test_a_label_carries_the_sign_and_colour_of_who_does_it(qapp: object, who: Side | None) -> None:
    b = small()
    b = replace(b, exchanges=(replace(b.exchanges[0], by=who),), second=replace(b.second, kit_colour="#2266CC"))
    (label,) = compile_programme(b, {}).labels
    assert label.by is who
    image = rgba_of(label_image(label.text, picture=(1280, 720), by=label.by, colour=label.colour))[..., :3].astype(int)
    middle, corner = image[24, 21], image[24 - 5, 21 - 5]
    near = {Side.FIRST: (0xE3, 0xA3, 0x3A), Side.SECOND: (0x22, 0x66, 0xCC), None: (0xFA, 0xF6, 0xEC)}[who]
    letters_begin = who is None
    assert letters_begin or np.abs(middle - near).max() < 12
    # A square reaches its corners, a disc does not.
    assert letters_begin or (np.abs(corner - near).max() < 12) == (who is Side.SECOND)


def test_words_that_name_no_technique_carry_no_sign(qapp: object) -> None:
    b = small()
    b = replace(b, exchanges=(replace(b.exchanges[0], by=Side.SECOND),), labels=(replace(b.labels[0], text="Grip"),))
    assert {x.text: x.by for x in compile_programme(b, {}).labels}["Grip"] is None


def test_everything_with_letters_stays_inside_the_middle_ninety_percent(qapp: object) -> None:
    """EBU R 95 and SMPTE ST 2046-1, over the whole demo: labels, names, cautions, score."""
    b = demo_breakdown(Path.cwd())
    p = compile_programme(b, {})
    overlay, seen = Overlay(b, p, (1280, 720)), set()
    for frame in range(0, p.frames, 7):
        for box in overlay.boxes(frame):
            seen.add(box.key.split("/")[0])
            assert box.x >= 64 and box.x + box.image.width() <= 1216, box.key
            assert box.y >= 36 and box.y + box.image.height() <= 684, box.key
    assert {"score"} < seen and len(seen) >= 4


def test_the_score_strip_stands_in_the_middle_of_the_upper_edge_and_not_in_an_opening(qapp: object) -> None:
    b = demo_breakdown(Path.cwd())
    p = compile_programme(b, {})
    overlay = Overlay(b, p, (1280, 720))
    opening = next(s for s in p.sections if s.section == b.script[0].id)
    assert not [x for x in overlay.boxes((opening.start + opening.end) // 2) if x.key.startswith("score")]
    talk = next(s for s in p.sections if any(x.id == s.section and x.part is Part.TALK for x in b.script))
    (strip,) = [x for x in overlay.boxes(talk.start + 5) if x.key.startswith("score")]
    assert abs(strip.x + strip.image.width() / 2 - 640) <= 2 and strip.y < 60


def test_a_rule_set_that_is_not_here_shows_no_points(qapp: object) -> None:
    b = demo_breakdown(Path.cwd())
    b = replace(b, ruling=replace(b.ruling, rules="house rules of somebody"))
    p = compile_programme(b, {})
    found = ScoreStrip(b, (1280, 720), p.known).at(Fraction(220))
    assert found is not None and found[0].split("/")[2:4] == ["0", "0"]


def test_a_card_has_its_laces_in_both_kits_between_two_rails(qapp: object) -> None:
    pixels = rgba_of(card_image("", "", picture=(640, 360), threads=("#E3A33A", "#3AA6B5")))[:, :, :3].astype(int)
    between = pixels[300:316, 64:576].reshape(-1, 3)
    for kit in ((0xE3, 0xA3, 0x3A), (0x3A, 0xA6, 0xB5)):
        assert (np.abs(between - kit).sum(axis=1) < 30).sum() > 100
    rail = np.array([0xCF, 0xC4, 0xAE])
    rows = (np.abs(pixels[270:345, 64:576] - rail).sum(axis=2) < 40).mean(axis=1)
    assert (rows > 0.6).sum() >= 2


def test_a_card_says_the_programmes_title_with_what_it_is_a_part_of(qapp: object) -> None:
    b = replace(demo_breakdown(Path.cwd()), script=demo_breakdown(Path.cwd()).script)
    title = replace(b.script[0], id="t", title="", exchange="", beats=(), part=Part.TALK)
    b = replace(b, script=(title, *b.script[1:]))
    p = compile_programme(b, {})
    found = Overlay(b, p, (640, 360)).card(0)
    assert found is not None and "Wren Adeyo and Moss Tarrant" in found[0] and b.part in found[0]


def test_the_credits_leave_their_foot_to_the_line_of_care(qapp: object) -> None:
    """Nothing is painted where the caution stands over the card."""
    b = demo_breakdown(Path.cwd())
    p = compile_programme(b, {})
    always = next(c for c in p.cautions if c.risk == "always")
    overlay = Overlay(b, p, (1280, 720))
    found = overlay.card(always.start + 5)
    (box,) = [x for x in overlay.boxes(always.start + 5) if x.key.startswith("caution")]
    assert found is not None
    under = rgba_of(found[1])[box.y - 4 : box.y + box.image.height(), 64:1216, :3]
    assert (under == under[0, 0]).all()


def test_every_face_has_the_letters_that_names_are_written_with(dressed: object) -> None:
    """Unicode 15: Latin-1, Latin Extended-A but for two letters that were given up, and of Latin Extended-B and
    Additional whatever is a letter and marks: Vietnamese, pinyin, the dots of Arabic and Indian names. The schwa."""
    composed = [chr(c) for c in (*range(0x1CD, 0x250), *range(0x1E00, 0x1F00)) if unicodedata.decomposition(chr(c))]
    without = {"ẚ", "ẛ", *(c for c in composed if any(part in unicodedata.normalize("NFD", c) for part in "ʒƷ\u0328"))}
    wanted = [chr(c) for c in range(0xC0, 0x180) if chr(c) not in "ĸſ"] + list("ƠơƯưƏə") + composed
    folder = Path(fonts.__file__).parent
    for file in sorted(folder.glob("*.ttf")):
        face = QRawFont(str(file), 20)
        assert {c for c in wanted if not face.supportsCharacter(c)} <= without, file.name
        # A mark stands on its letter, and leaves it as it is.
        plain, dotted = (face.boundingRect(face.glyphIndexesForString(c)[0]) for c in "dḍ")
        assert dotted.bottom() > plain.bottom() + 1 and abs(dotted.top() - plain.top()) < 0.1


def test_the_ground_round_pictures_is_that_of_the_window() -> None:
    assert QColor(*GROUND) == QColor(DEEP)
    frame = planes_of(frame_of_ground(16, 16))
    y, cb, cr = (int(plane[0, 0]) for plane in frame)
    # ITU-R BT.709, video range.
    red = 255 / 219 * (y - 16) + 255 / 224 * 1.5748 * (cr - 128)
    blue = 255 / 219 * (y - 16) + 255 / 224 * 1.8556 * (cb - 128)
    assert abs(red - QColor(DEEP).red()) <= 2 and abs(blue - QColor(DEEP).blue()) <= 2
