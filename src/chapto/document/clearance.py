"""Whose footage it is, who can be seen in it, and who agreed. The platform's rules and the country's law decide."""

from __future__ import annotations

from enum import StrEnum

import msgspec


class Agreement(StrEnum):
    """How far asking somebody has come."""

    NOT_ASKED = "not asked"
    ASKED = "asked"
    AGREED = "agreed"
    REFUSED = "refused"


class Clearance(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Rights in one file: `owner` filmed it or holds it; `music` is None while nobody has listened for any."""

    owner: str = ""
    agreement: Agreement = Agreement.NOT_ASKED
    how: str = ""
    when: str = ""
    credit: str = ""
    music: bool | None = None


class Person(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Somebody who can be seen. For a minor a guardian has to agree, and `guardian` says who did."""

    id: str
    name: str
    part: str = ""
    agreement: Agreement = Agreement.NOT_ASKED
    how: str = ""
    when: str = ""
    minor: bool = False
    guardian: str = ""
