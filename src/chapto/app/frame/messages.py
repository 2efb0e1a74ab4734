"""Sentences for the foot: one after another, each long enough to be read, and the last ones to be read again. Free of
Qt; times are seconds of a rising clock."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass
from datetime import datetime

KEPT = 20
ALONE, CROWDED = 9.0, 3.0
"""Seconds for which a message stands: with nothing behind it, and with others waiting."""
A_WORD = 0.3
"""Seconds more for each word beyond ten while others wait (common practice: 0.3 s a word to read)."""


@dataclass(frozen=True)
class Message:
    """What was said and when. The first line is shown at the foot, the others in the list."""

    text: str
    at: datetime

    @property
    def head(self) -> str:
        """What stands at the foot."""
        first, _, rest = self.text.partition("\n")
        return f"{first} Press here for the list." if rest else first

    @property
    def is_list(self) -> bool:
        """Whether there is more to read than the head."""
        return "\n" in self.text


class Messages:
    """`now` is the message on show, None while there is none; `said` the last twenty, the newest last."""

    def __init__(self) -> None:
        self.now: Message | None = None
        self.said: deque[Message] = deque(maxlen=KEPT)
        self._waiting: deque[Message] = deque()
        self._since = 0.0

    def say(self, text: str, clock: float) -> None:
        """Show a message at once, as it answers what was just done. One that it drives away before it could be read
        comes back afterwards."""
        made = Message(text, datetime.now())
        self.said.append(made)
        if self.now is not None and self.now.text != text and clock - self._since < CROWDED:
            self._waiting.append(self.now)
        self._waiting = deque(m for m in self._waiting if m.text != text)
        self.now, self._since = made, clock

    def go_on(self, clock: float) -> None:
        """Take the next one where the one on show has had its time."""
        if self.now is not None and clock - self._since >= self._length():
            self.now = None
        if self.now is None and self._waiting:
            self.now, self._since = self._waiting.popleft(), clock

    def put_away(self, clock: float) -> None:
        """It has been read: the next one, or none."""
        self.now = None
        self.go_on(clock)

    def left(self, clock: float) -> float:
        """Seconds until `go_on` is to be asked again; 0 while nothing is on show."""
        return max(self._since + self._length() - clock, 0.05) if self.now is not None else 0.0

    def _length(self) -> float:
        if not self._waiting or self.now is None:
            return ALONE
        return min(CROWDED + A_WORD * max(len(self.now.text.split()) - 10, 0), ALONE)
