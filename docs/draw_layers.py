"""Draws the import graph of Chapto's packages: `python docs/draw_layers.py docs/layers.svg`.

A package stands below those it may import. A line to the left of its name leads to each package that it does import,
the thicker the more modules do so. A line that leads down would be red; import-linter sees to it that none does.
"""

from __future__ import annotations

import sys
import tomllib
from collections import Counter
from pathlib import Path

import grimp

ROOT = Path(__file__).parents[1]
ROW, TOP, NAMES, WIDTH = 34, 24, 300, 620
INK, SOFT, PAPER, LINE, FORBIDDEN = "#1D2623", "#57635D", "#FAF6EC", "#6E9440", "#C0472C"


def layers() -> list[str]:
    """The packages in the order of the layers, those that import nothing first."""
    settings = tomllib.loads((ROOT / "pyproject.toml").read_text("utf-8"))
    contract = next(c for c in settings["tool"]["importlinter"]["contracts"] if c["type"] == "layers")
    rows = [row.split(" | ") for row in reversed(contract["layers"])]
    return [name.removeprefix("chapto.") for row in rows for name in row]


def imports(names: list[str]) -> Counter[tuple[str, str]]:
    """How many modules of one package import something of another."""
    graph = grimp.build_graph("chapto")
    found: set[tuple[str, str, str]] = set()
    for module in graph.modules:
        for imported in graph.find_modules_directly_imported_by(module):
            here, there = (m.split(".")[1] if "." in m else "" for m in (module, imported))
            if here != there and here in names and there in names:
                found.add((module, here, there))
    return Counter((here, there) for _, here, there in found)


def svg() -> str:
    """The picture."""
    names = layers()
    graph = grimp.build_graph("chapto")
    sizes = Counter(m.split(".")[1] for m in graph.modules if "." in m)
    y = {name: TOP + i * ROW for i, name in enumerate(names)}
    height = TOP + len(names) * ROW
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH} {height}" font-family="Barlow, sans-serif">',
        f'<rect width="{WIDTH}" height="{height}" fill="{PAPER}"/>',
    ]
    for (here, there), count in sorted(imports(names).items()):
        bulge = 14 * abs(y[here] - y[there]) / ROW + 12
        colour = LINE if y[there] < y[here] else FORBIDDEN
        left, high, low = f"{NAMES - bulge:g}", y[here], y[there]
        parts.append(
            f'<path d="M{NAMES} {high} C{left} {high} {left} {low} {NAMES} {low}" '
            f'fill="none" stroke="{colour}" stroke-opacity="0.55" stroke-width="{1 + count**0.5:.1f}"/>'
        )
    for name in names:
        modules = f"{sizes[name]} module{'s' if sizes[name] != 1 else ''}"
        parts.append(f'<circle cx="{NAMES}" cy="{y[name]}" r="4" fill="{INK}"/>')
        at = f'y="{y[name] + 5}"'
        parts.append(f'<text x="{NAMES + 14}" {at} fill="{INK}" font-size="16" font-weight="600">{name}</text>')
        parts.append(f'<text x="{NAMES + 150}" {at} fill="{SOFT}" font-size="14">{modules}</text>')
    return "\n".join([*parts, "</svg>", ""])


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(svg(), "utf-8")
