"""What can be done with a file as a whole: every act is one edit."""

from __future__ import annotations

from chapto.app.studio import Studio
from chapto.document import edit_footage
from chapto.document.footage import Footage


class FileActs:
    """Acts on the file that is handed to each."""

    def __init__(self, studio: Studio) -> None:
        self._studio = studio

    def is_main(self, c: Footage) -> bool:
        """Whether it is of the camera that is used wherever its picture is good."""
        return self._studio.breakdown.footage[0].camera_name == c.camera_name

    def to_main(self, c: Footage) -> None:
        """Its camera is used wherever its picture is good."""
        self._studio.edit("make it the main camera", lambda b: edit_footage.make_main(b, c.id))

    def mirror(self, c: Footage) -> None:
        """Left and right are changed back, or left as filmed."""
        self.put(c, "leave as filmed" if c.mirrored else "turn back", mirrored=not c.mirrored)

    def steady(self, c: Footage) -> None:
        """The shaking of a hand is taken out of it, or left."""
        self.put(c, "leave it unsteadied" if c.steady else "steady it", steady=not c.steady)

    def take_out(self, c: Footage) -> None:
        """It goes out of the breakdown; the file itself stays where it is."""
        self._studio.edit(f"take out {c.name}", lambda b: edit_footage.remove_footage(b, c.id))
        self._studio.files.find()

    def put(self, c: Footage, what: str, **changes: object) -> None:
        """Change fields of it; `what` is said when that is undone."""
        self._studio.edit(what, lambda b: edit_footage.change_footage(b, c.id, **changes))
