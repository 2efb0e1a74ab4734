"""Complete the letters of the shipped faces: `python packaging/complete_letters.py` (with fonttools installed).

The faces as they are published lack letters that names are written with: pinyin carons, breves over E and I, dots below
for Arabic and Indian names, the schwa. Each is put together from the face's own letter and mark, by the canonical
decompositions of Unicode, where the face puts that mark on other letters. What is there already stays; run again it
changes nothing. The Open Font Licence allows it, and the faces reserve no name.
"""

from __future__ import annotations

import unicodedata
from pathlib import Path

from fontTools.ttLib import TTFont
from fontTools.ttLib.tables._g_l_y_f import Glyph, GlyphComponent

FONTS = Path(__file__).parents[1] / "src" / "chapto" / "paint" / "fonts"
WANTED = (*range(0x0100, 0x0250), *range(0x0259, 0x025A), *range(0x1E00, 0x1F00))
"""Latin Extended-A, Latin Extended-B, the small schwa, Latin Extended Additional."""
ABOVE = {0x300: "à", 0x301: "á", 0x302: "â", 0x303: "ã", 0x304: "ā", 0x306: "ă", 0x307: "ż", 0x308: "ä", 0x309: "ả",
         0x30A: "å", 0x30B: "ő", 0x30C: "č"}  # fmt: skip
"""Marks above a letter, and a letter that has each."""
TURNED = {0x30F: (0x30B, (-1, 1)), 0x311: (0x306, (1, -1))}
"""Marks that are another one turned over: the double grave, the inverted breve."""
UNDER = {0x324: 0x308, 0x325: 0x30A, 0x32D: 0x302, 0x32E: 0x306, 0x330: 0x303, 0x331: 0x304}
"""Marks under a letter that are those above it."""
BELOW = {0x323: "ạ", 0x326: "ș"}
GAP = 60
"""Units between a letter's foot and a mark under it."""
CEDILLA = 0x327
DOTLESS = {"i": "ı", "j": "ȷ"}


class Face:
    """One file of a face, to which letters are added."""

    def __init__(self, path: Path) -> None:
        self.path, self.font = path, TTFont(path)
        self.cmap, self.glyphs = self.font.getBestCmap(), self.font["glyf"]
        self.added = 0

    def name(self, letter: str) -> str | None:
        return self.cmap.get(ord(letter))

    def box(self, name: str) -> tuple[int, int, int, int]:
        glyph = self.glyphs[name]
        glyph.recalcBounds(self.glyphs)
        return glyph.xMin, glyph.yMin, glyph.xMax, glyph.yMax

    def put(self, code: int, parts: list[tuple[str, int, int, tuple[float, float]]], advance: int) -> None:
        """Add a letter made of parts: glyph, shift right, shift up, and by what it is scaled."""
        made = Glyph()
        made.numberOfContours = -1
        made.components = []
        for i, (name, x, y, scale) in enumerate(parts):
            part = GlyphComponent()
            part.glyphName, part.x, part.y = name, round(x), round(y)
            # Offsets in units, rounded to the grid; the first part's own metrics are not taken over.
            part.flags = 0x0002 | 0x0004
            if scale != (1, 1):
                part.transform = [[scale[0], 0], [0, scale[1]]]
            made.components.append(part)
        name = f"uni{code:04X}"
        self.font.setGlyphOrder([*self.font.getGlyphOrder(), name])
        self.glyphs.glyphs[name] = made
        made.recalcBounds(self.glyphs)
        self.font["hmtx"][name] = (advance, made.xMin)
        for table in self.font["cmap"].tables:
            if table.isUnicode():
                table.cmap[code] = name
        self.cmap[code] = name
        self.added += 1

    def mark_of(self, letter: str) -> tuple[str, int, int]:
        """The glyph of a letter's mark, how far it stands over the letter, and how far right of its middle."""
        glyph = self.glyphs[self.cmap[ord(letter)]]
        base, part = glyph.components[0], glyph.components[-1]
        letter_box, mark_box = self.box(base.glyphName), self.box(part.glyphName)
        off = part.x + (mark_box[0] + mark_box[2]) / 2 - (letter_box[0] + letter_box[2]) / 2 - base.x
        return part.glyphName, round(part.y + mark_box[1] - letter_box[3]), round(off)

    def placed(self, base: str, mark: int) -> tuple[str, int, int, tuple[float, float]] | None:
        """A mark on a letter, as a part."""
        x0, y0, x1, y1 = self.box(base)
        middle, scale = (x0 + x1) / 2, (1, 1)
        mark, scale = TURNED.get(mark, (mark, scale))
        if mark == CEDILLA:
            name = self.name("¸")
            box = self.box(name)
            return name, middle - (box[0] + box[2]) / 2, min(y0, 0) * 0, (1, 1)
        if mark in BELOW:
            name, _, _ = self.mark_of(BELOW[mark])
            box = self.box(name)
            return name, middle - (box[0] + box[2]) / 2, min(y0, 0) - GAP - box[3], (1, 1)
        under = mark in UNDER
        donor = ABOVE.get(UNDER.get(mark, mark))
        if donor is None:
            return None
        name, gap, off = self.mark_of(donor)
        box = self.box(name)
        low, high = (box[1], box[3]) if scale[1] > 0 else (-box[3], -box[1])
        wide = (box[0] + box[2]) / 2 * scale[0]
        if under:
            return name, middle - wide, min(y0, 0) - GAP - high, scale
        return name, middle + off - wide, y1 + gap - low, scale

    def compose(self, code: int) -> bool:
        """Add a letter by its decomposition, parts of it first; whether it is there now."""
        if code in self.cmap:
            return True
        parts = unicodedata.decomposition(chr(code)).split()
        if len(parts) != 2 or parts[0].startswith("<"):
            return False
        base, mark = (int(p, 16) for p in parts)
        if not self.compose(base):
            return False
        above = mark in ABOVE or mark in TURNED
        name = self.name(DOTLESS.get(chr(base), chr(base)) if above else chr(base))
        part = self.placed(name, mark) if name is not None else None
        if part is None:
            return False
        self.put(code, [(name, 0, 0, (1, 1)), part], self.font["hmtx"][name][0])
        return True

    def compose_others(self) -> None:
        """Letters that have no decomposition: schwas, ligatures, sharp S, clicks."""
        e, width = self.name("e"), self.font["hmtx"][self.name("e")][0]
        x0, y0, x1, y1 = self.box(e)
        large = self.box(self.name("E"))[3] / self.box(self.name("x"))[3]
        for code, size in ((0x259, 1), (0x1DD, 1), (0x18F, large)):
            self.once(code, [(e, (x0 + x1) * size, (y0 + y1) * size, (-size, -size))], round(width * size))
        capital, its = self.name("E"), self.font["hmtx"][self.name("E")][0]
        box = self.box(capital)
        self.once(0x18E, [(capital, box[0] + box[2], 0, (-1, 1))], its)
        self.once(0x1E9E, [(self.name("ß"), 0, 0, (1, 1))], self.font["hmtx"][self.name("ß")][0])
        for code, letters in ((0x132, "IJ"), (0x133, "ij"), (0x149, "’n"), (0x1C0, "|"), (0x1C1, "||"), (0x1C3, "!"),
                              (0x1C4, "DŽ"), (0x1C5, "Dž"), (0x1C6, "dž"), (0x1C7, "LJ"), (0x1C8, "Lj"), (0x1C9, "lj"),
                              (0x1CA, "NJ"), (0x1CB, "Nj"), (0x1CC, "nj"), (0x1F1, "DZ"), (0x1F2, "Dz"),
                              (0x1F3, "dz")):  # fmt: skip
            at, parts = 0, []
            for letter in letters:
                parts.append((self.name(letter), at, 0, (1, 1)))
                at += self.font["hmtx"][self.name(letter)][0]
            self.once(code, parts, at)
        middle, box = self.name("·"), self.box(self.name("L"))
        dot = self.box(middle)
        for code, letter in ((0x13F, "L"), (0x140, "l")):
            stem = self.box(self.name(letter))
            right = stem[0] + 110 if letter == "L" else stem[2] + 30
            wide = self.font["hmtx"][self.name(letter)][0]
            advance = wide if letter == "L" else wide + (dot[2] - dot[0]) + 30
            self.once(code, [(self.name(letter), 0, 0, (1, 1)), (middle, right + 60 - dot[0], 0, (1, 1))], advance)

    def once(self, code: int, parts: list[tuple[str, int, int, tuple[float, float]]], advance: int) -> None:
        if code not in self.cmap and all(p[0] is not None for p in parts):
            self.put(code, parts, advance)


def main() -> None:
    """Complete every face in place, and say what is still missing."""
    for path in sorted(FONTS.glob("*.ttf")):
        face = Face(path)
        face.compose_others()
        missing = [chr(c) for c in WANTED if unicodedata.category(chr(c)) != "Cn" and not face.compose(c)]
        if face.added:
            face.font.save(path)
        print(f"{path.name}: {face.added} added; missing {''.join(missing)}")


if __name__ == "__main__":
    main()
