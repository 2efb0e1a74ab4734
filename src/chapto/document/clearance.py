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
    WITHDRAWN = "withdrawn"


class Clearance(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Rights in one file. `owner` filmed it or holds it; `organiser` is whose event or broadcast it is, where that is
    somebody else, and `organiser_agreed` whether they allow it. `scope` is what it may be used for, and `until` till
    when. None is what nobody has asked yet: whether there is `music` or somebody else's `commentary` in its sound,
    whether a still may stand as `thumbnail`, whether somebody is `hurt`."""

    owner: str = ""
    agreement: Agreement = Agreement.NOT_ASKED
    how: str = ""
    when: str = ""
    credit: str = ""
    music: bool | None = None
    commentary: bool | None = None
    thumbnail: bool | None = None
    hurt: bool | None = None
    hurt_agreed: bool = False
    organiser: str = ""
    organiser_agreed: bool = False
    scope: str = ""
    until: str = ""


class Person(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Somebody who can be seen. `minor` is None until their age was asked. A minor has to agree, and a guardian too:
    `guardian` says who did, `guardian_how` how and when. `when` is the day of a yes, a no or a withdrawal."""

    id: str
    name: str
    part: str = ""
    agreement: Agreement = Agreement.NOT_ASKED
    how: str = ""
    when: str = ""
    minor: bool | None = None
    guardian: str = ""
    guardian_how: str = ""
