"""What Ilka and Bram say over the bout, section by section.

`word@name` ties a word to the moment of that name.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from chapto.document.script import BeatKind, Part
from chapto.document.treatments import Again, Cutaway, Loop, ShowPhoto, SideBySide, Treatment

EARLIER_ROLL = 600
"""Mat second at which the Tuesday round lies, well after the bout."""
ILKA, BRAM = "n1", "n2"
B = BeatKind


@dataclass(frozen=True)
class Line:
    """One beat; `words` with its ties; an `id` where it came later. It is heard `at` a mat second where the footage
    says it."""

    kind: BeatKind
    words: str
    treatment: Treatment | None = None
    narrator: str = ILKA
    id: str = ""
    at: str = ""


@dataclass(frozen=True)
class Talk:
    """One section: its chapter, the exchange (by name) under it, and its lines; an `id` where it came later."""

    title: str
    exchange: str
    lines: tuple[Line, ...]
    part: Part = Part.TALK
    show_first: bool = False
    once_more: bool = False
    more_camera: str = ""
    as_filmed: bool = False
    id: str = ""
    skips: tuple[tuple[str, str], ...] = ()


SCRIPT: tuple[Talk, ...] = (
    Talk("Two knee slides", "finish", (
        Line(B.OPENING, "This one ends with a strangle. But what you can take home from it is one arm: where "
             "it is when her knee goes in."),
    ), Part.OPENING),
    Talk("", "", (
        Line(B.OPENING, "Saltmarsh Winter Open, mat two. Wren Adeyo in marigold sleeves, Moss Tarrant in lagoon. "
             "Twice she slides the same knee: the first time she is stopped, the second time she is past."),
        Line(B.OPENING, "From the side the two look the same, so we will look at the arms.",
             ShowPhoto("o1", beside="o2"), BRAM),
    ), Part.INTRODUCTION),
    Talk("The takedown", "entry", (
        Line(B.HAPPENED, "She waits for Moss to lift his hands, and here@level she drops her hips underneath them."),
        Line(B.WHY, "Both hands lock behind the knee@leg, and her head is on the inside. From there she does not lift. "
             "She walks him onto the one foot he has left, and when that foot is straight, he@fall falls."),
        Line(B.RULE, "Take the base away first, then finish.", Loop(Fraction(2), Fraction(1, 2), to_and_fro=True)),
    )),
    Talk("First try, stopped", "first try", (
        Line(B.HAPPENED, "That was the whole thing. Now again, with words. Her knee@cut lands on top of his thigh, "
             "and that "
             "is already the trouble."),
        Line(B.SLIP, "Look at his far arm, right there@frame on her collarbone. She has no underhook, so the frame "
             "holds her "
             "chest away, and with her chest away the knee has nothing to lean on. He turns in and gets@back his half "
             "guard."),
        Line(B.OPTION, "If you feel that frame, stop and clear it. Pushing through only makes it stronger.",
             Again(Fraction("4.5"), Fraction(1, 2))),
    ), show_first=True),
    Talk("Second try, past", "second try", (
        Line(B.HAPPENED, "Fifteen seconds later, same side, same leg. This time the underhook@under comes first. "
             "Her ear is on his chest before anything else moves."),
        Line(B.WHY, "So when the knee@knee slides, his frame is already gone. Her weight goes to the mat on the far "
             "side, "
             "and her hips@past follow it out."),
        Line(B.OPTION, "Both together, from the moment the knee goes in. Left, his arm is straight. Right, there is "
             "no room "
             "for it.", SideBySide(Fraction("84.2"), Fraction("104.0"), Fraction(1, 2)), BRAM),
        Line(B.OPTION, "And this is a Tuesday at the club, slowly, with the underhook in from the start.",
             Cutaway(Fraction(EARLIER_ROLL) + Fraction("11.5"), Fraction(3, 4))),
    ), once_more=True, more_camera="Far wall"),
    Talk("Moss answers", "sweep", (
        Line(B.HAPPENED, "Her knee is on his belly. He straightens that leg, her shin slides off, and here@half it is "
             "half guard again. Then the same grip@knees as hers: his underhook brings him up to his knees."),
        Line(B.WHY, "Wren leans into him, and her near arm is trapped, so on that side she has no post. He drives "
             "across, and she goes@over over it. Two points, and a good lesson: the underhook@swept works for both."),
    )),
    Talk("The leg she lets go", "leg lock", (
        Line(B.HAPPENED, "From underneath she finds his leg. Watch the knee line@ashi: it is just past her hips, so "
             "for a "
             "moment the heel is hers to look for."),
        Line(B.WHY, "Moss does not pull. He frees the knee and puts the foot back, and here@free the heel is gone. "
             "She lets "
             "it go rather than twist after it, and that is the right choice."),
    ), skips=(("178.6", "186.2"),)),
    Talk("The finish", "back", (
        Line(B.HAPPENED, "Last one. She sits up, pulls his arm@drag across her, and goes round behind it. He turtles, "
             "and she does not rush. One arm over the shoulder, one under, and the seat belt@belt is on. Then the "
             "hooks@hooks, one at a time, and only then are there points."),
    ), skips=(("197.0", "202.6"),)),
    Talk("", "finish", (
        Line(B.WHY, "The strangle is patient too. Her forearm@arm goes under the chin past his hands, "
             "and she brings him close before she squeezes. He taps@tap, and she lets go at once."),
    )),
    Talk("", "finish", (
        Line(B.HAPPENED, "[The referee's whistle.]", id="b23", at="231.6"),
    ), as_filmed=True, id="s13", skips=(("221.6", "227.6"),)),
    Talk("Take it to the mat", "", (
        Line(B.RULE, "So: take the base away before you finish. Underhook first, knee second. And no twisting after a "
             "heel "
             "that is gone. Try it slowly, with a partner you trust."),
        Line(B.ASK, "Tell us which try looks like yours.", narrator=BRAM),
    ), Part.RECAP),
    Talk("Thanks", "", (
        Line(B.THANKS, "Thanks to Wren and Moss, who both said yes to this, and to Tidewrack Grappling for the Tuesday "
             "round. Practise strangles and leg locks under a qualified coach, tap early, and let go at the tap."),
    ), Part.CREDITS),
)  # fmt: skip
