"""The shape the code keeps, read from its source."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

SOURCE = Path(__file__).parents[1] / "src" / "chapto"
FILES = sorted(SOURCE.rglob("*.py"))


def chains(tree: ast.AST) -> Iterator[tuple[int, list[str]]]:
    """Every dotted chain that begins with a name, as its line and names, `self` and `cls` left out."""
    inner = {id(n.value) for n in ast.walk(tree) if isinstance(n, ast.Attribute)}
    for node in ast.walk(tree):
        if isinstance(node, ast.Attribute) and id(node) not in inner:
            names, at = [], node
            while isinstance(at, ast.Attribute):
                names.append(at.attr)
                at = at.value  # type: ignore[assignment]
            if isinstance(at, ast.Name):
                names.append(at.id)
                yield node.lineno, [n for n in reversed(names) if n not in ("self", "cls")]


def test_no_widget_reaches_over_two_dots() -> None:
    reaching = [
        f"{path.relative_to(SOURCE)}:{line} {'.'.join(names)}"
        for path in FILES
        for line, names in chains(ast.parse(path.read_text()))
        if len(names) > 3 and names[0][0].islower() and names[0] not in ("np", "last")
    ]
    assert reaching == []


def test_every_colour_of_the_window_and_the_picture_is_named_in_one_place() -> None:
    """The demo's footage is a picture of its own, and a document may hold any colour."""
    painted = [p for p in FILES if p.parent.name not in ("demo", "document") and p.name != "colours.py"]
    written = [
        f"{p.relative_to(SOURCE)}: {found}"
        for p in painted
        for found in re.findall(r"#[0-9A-Fa-f]{6}\b|QColor\(\d[^)]*\)", p.read_text())
        if found != "QColor(0, 0, 0, 0)"
    ]
    assert written == []


def imports(path: Path) -> set[str]:
    """The modules of Chapto that a file imports, those only for types included."""
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("chapto"):
            found.add(node.module)
            found.update(f"{node.module}.{alias.name}" for alias in node.names)
    return found


def test_no_two_modules_import_each_other_in_a_circle() -> None:
    names = {
        ".".join(("chapto", *p.relative_to(SOURCE).with_suffix("").parts)).removesuffix(".__init__"): p for p in FILES
    }
    needs = {name: (imports(p) & set(names)) - {name} for name, p in names.items()}
    # A package that only hands on a name of its own module is no circle.
    needs = {k: {n for n in v if not n.startswith(k + ".")} for k, v in needs.items()}
    left = dict(needs)
    while ready := [n for n, v in left.items() if not v & set(left)]:
        for n in ready:
            del left[n]
    assert sorted(left) == []


def test_no_file_is_a_drawer() -> None:
    assert not {p.stem for p in FILES} & {"utils", "util", "helpers", "misc", "common", "manager"}


LONGEST_SENTENCE = 25
"""Words. Longer sentences are read twice (common practice of plain-language guides)."""


def docstrings(tree: ast.AST) -> Iterator[str]:
    """Every docstring, and every text under a constant that says what it is."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef):
            for statement in node.body:
                if isinstance(statement, ast.Expr) and isinstance(statement.value, ast.Constant):
                    yield str(statement.value.value)


def test_no_sentence_of_a_docstring_is_long() -> None:
    ends = re.compile(r"(?<=[.!?:;])\s+|\n\s*\n|\n\s*(?:[-*]|\d+\.)\s")
    long = [
        f"{path.relative_to(SOURCE)}: {' '.join(sentence.split())}"
        for path in FILES
        for text in docstrings(ast.parse(path.read_text()))
        for sentence in ends.split(text)
        if len([word for word in sentence.split() if re.search(r"\w", word)]) > LONGEST_SENTENCE
    ]
    assert long == []
