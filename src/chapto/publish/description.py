"""The description that stands under a video: the creator's own words, chapters, cautions, disclosure and thanks, laid
out by a template that can be one's own."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

import jinja2
from jinja2.sandbox import SandboxedEnvironment
from platformdirs import user_config_path

from chapto.clock.timecode import clock_text
from chapto.document.breakdown import Breakdown
from chapto.document.script import BeatKind
from chapto.errors import ChaptoError
from chapto.programme.cautions import risks_shown
from chapto.programme.framing_sections import credits_of
from chapto.programme.programme import Programme

SHIPPED = Path(__file__).with_name("description.txt.j2")


class DescriptionError(ChaptoError):
    """A template that can't be used."""


def template_file() -> Path:
    """Where the user's own template stands."""
    return user_config_path("chapto") / "description.txt.j2"


def description(b: Breakdown, programme: Programme, kept: tuple[str, ...] = ()) -> str:
    """The description of a programme, by the user's own template where there is one; `DescriptionError` says what is
    wrong with that. `kept` are lines about promises that were kept, with where."""
    return described(b, programme, *_template(), kept)


def described(b: Breakdown, programme: Programme, source: str, name: str, kept: tuple[str, ...] = ()) -> str:
    """The description by a template (Jinja2). It is given `title`, `part`, `about`, `chapters` (each with `at` and
    `title`), `cautions`, `credits`, lines about promises that were `kept`, and whether it is `sponsored`."""
    lexicon = programme.known.lexicon
    risks = dict.fromkeys(risk for _, risk in risks_shown(b, lexicon))
    try:
        text = _compiled(source).render(
            title=b.title,
            part=b.part,
            about=b.about.strip(),
            chapters=[{"at": clock_text(c.start / programme.fps), "title": c.title} for c in programme.chapters],
            cautions=[*(lexicon.caution(risk) for risk in risks), *([lexicon.always] if risks else [])],
            credits=credits_of(b),
            kept=kept,
            sponsored=any(beat.kind is BeatKind.SPONSOR for _, beat in b.beats()),
        )
    except jinja2.TemplateError as error:
        raise DescriptionError(f"The description can't be laid out by “{name}”: {error}.") from None
    return text.strip() + "\n"


def _template() -> tuple[str, str]:
    own = template_file()
    try:
        return own.read_text("utf-8"), own.name
    except FileNotFoundError:
        return SHIPPED.read_text("utf-8"), SHIPPED.name
    except (OSError, UnicodeDecodeError) as error:
        raise DescriptionError(f"Your own “{own.name}” can't be read: {error}.") from None


@lru_cache(maxsize=8)
def _compiled(source: str) -> jinja2.Template:
    # A template may come from somebody else: it reaches nothing but what it is given.
    environment = SandboxedEnvironment(trim_blocks=True, lstrip_blocks=True, undefined=jinja2.StrictUndefined)
    return environment.from_string(source)
