"""What the keys of the Voice stage do."""

from __future__ import annotations

KEYS = (
    ("R  Return", "record the line and stop, keep it and go on"),
    ("Shift+R  Alt+R", "record the section, or all of it"),
    ("P", "read again from the word to the next pause"),
    ("Up  Down", "the line before, the line after"),
    (",  .", "the word before, the word after"),
    ("L  C", "hear the take, with its noise or without"),
    ("H  Shift+H", "let the voice hurry, linger"),
    ("+  −", "make the take louder, quieter"),
    ("U  M", "use it or the guide voice, mark to read again"),
    ("N  Delete", "another narrator, take the recording out"),
    ("T", "write what was said into the script"),
    ("X  Shift+X  F", "cut what was added, take it back, all fillers"),
    ("Alt+,  Alt+.", "pull where the word begins; with Shift, ends"),
    ("Ctrl+I  Ctrl+M", "bring in a recording, choose the microphone"),
    ("W  G", "talk while watching, the talk as it was or tidied"),
    ("Shift+W  E", "log the names in it, type what was not understood"),
    ("Q  Ctrl+G", "listen to the empty room, guide voice only"),
)
