"""The foot of Publish: where what goes out is put, the presses that make and send it, and what came of them."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.ask import ask
from chapto.app.choosing import Choosing
from chapto.app.publish.making import PackageMaking
from chapto.app.publish.send_sheet import SendSheet
from chapto.app.studio import Studio
from chapto.app.widgets import Elided, Pressable, button, label
from chapto.errors import ChaptoError
from chapto.publish.package import default_preview, default_video, places_of
from chapto.publish.roles import default_package
from chapto.publish.site.site import Site
from chapto.publish.site.stand_in import StandInSite, site_folder
from chapto.render.package.make import NotOurs, check_folder
from chapto.store.errors import AlreadyThere
from chapto.store.outputs import OutputGate


class PublishFoot(QWidget):
    """`making` does the work; `review` leads to what is still open."""

    def __init__(self, studio: Studio, making: PackageMaking, review: Callable[[], object]) -> None:
        super().__init__()
        self._studio, self.making = studio, making
        self.site: Site = StandInSite(site_folder())
        self.sending: SendSheet | None = None
        self._chosen: Path | None = None
        self._there_before = False
        foot = layouts.column(self)
        self._open_findings = Pressable(review)
        self._open_findings.setWordWrap(True)
        foot.addWidget(self._open_findings)
        where = layouts.row()
        self._where = label("", size="head")
        self._folder = Elided()
        self._folder.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        where.addWidget(self._where)
        where.addWidget(self._folder, 1)
        where.addWidget(button("Elsewhere…", self._choose_target, tip="Choose folder, name and kind of file"))
        foot.addLayout(where)
        acts = layouts.row()
        self.render_button = button(
            "Make everything", self.make, tip="Make all that goes out", key="Ctrl+R", sign="publish", kind="main"
        )
        self.render_button.setMinimumHeight(36)
        self._alone = button("Video only", self.start_render, tip="Make the video alone", key="Ctrl+Shift+R")
        self._alone.setMinimumHeight(36)
        self._soon = button("Preview", self.preview, tip="A small video soon, to be looked through", key="Ctrl+Alt+R")
        self._soon.setMinimumHeight(36)
        self._send = button("Send…", self.send, tip="Send it to the site", key="Ctrl+Return")
        self._send.setMinimumHeight(36)
        self._stop = button("Stop", self.stop, tip="Stop; what was there stays as it is", sign="cross")
        self._stop.setMinimumHeight(36)
        acts.addWidget(self.render_button, 1)
        for one in (self._alone, self._soon, self._send, self._stop):
            acts.addWidget(one)
        foot.addLayout(acts)
        self.result = Pressable(self.show_result)
        self.result.setWordWrap(True)
        foot.addWidget(self.result)
        self._stop.hide()
        making.ended.connect(self._ended)
        self.show_target()
        self.show_open()

    def show_open(self) -> None:
        """What review still has open stands before the press that makes it."""
        count = self._studio.reviewing.open
        words = "one thing" if count == 1 else f"{count} things"
        self._open_findings.setText(f"Review still has {words} to mend. Press to see." if count else "")
        self._open_findings.setVisible(bool(count))

    def show_share(self) -> None:
        """How far it is."""
        if self.making.job is not None:
            self.render_button.setText(f"Making it… {self.making.whole:.0%}")

    # ── making it ────────────────────────────────────────────────────────────────────────────────────────────
    def make(self) -> None:
        """Make everything that goes out, in one folder beside the video's place."""
        if self.making.job is not None:
            return
        folder = self.folder
        try:
            check_folder(folder, thorough=False)
        except NotOurs as error:
            free = _free_folder(folder)
            answer = ask(self, f"{error} Make it as “{free.name}” instead?", ("Make it there", "Leave it"))
            if answer != 0:
                return
            folder = free
        except ChaptoError as error:
            self._refused(str(error))
            return
        self._there_before = folder.exists()
        self._begun()
        self.making.make(folder, self.target.suffix)

    def start_render(self) -> None:
        """Render the video alone, what the document says now. What must not be replaced is refused before, and what may
        be is asked about."""
        if self.making.job is not None:
            return
        target = self.target
        replacing = self._may_write(*places_of(target))
        if replacing is None:
            return
        self._there_before = replacing
        self._begun()
        self.making.render(target, replacing=replacing)

    def preview(self) -> None:
        """Make a small video soon, beside where the video goes, under a name of its own."""
        if self.making.job is not None:
            return
        target = default_preview(self.target)
        replacing = self.making.made_preview(target) or self._may_write(target)
        if replacing is None:
            return
        self._there_before = replacing
        self._begun()
        self.making.preview(target, replacing=replacing)

    def stop(self) -> None:
        """Stop what is being made."""
        self.making.stop()

    def _begun(self) -> None:
        self.render_button.setEnabled(False)
        self.render_button.setText("Making it…")
        for one in (self._alone, self._soon, self._send):
            one.hide()
        self._stop.show()
        self.result.setText("")

    def ask_to_stop(self) -> None:
        """Stop what is being made, if that is meant."""
        if self.making.job is not None and ask(self, "Stop making it?", ("Stop it", "Go on")) == 0:
            self.stop()

    def _may_write(self, target: Path, *beside: Path) -> bool | None:
        """Whether files are replaced; None when nothing may be written there, or it was not agreed to."""
        gate = OutputGate(self._studio.breakdown, self._studio.session.path)
        try:
            gate.check(target, *beside)
        except AlreadyThere as there:
            # One of the others may be footage all the same.
            try:
                OutputGate(self._studio.breakdown, self._studio.session.path, replacing=True).check(target, *beside)
            except ChaptoError as error:
                self._refused(str(error))
                return None
            names = ", ".join(p.name for p in there.places)
            answer = ask(self, f"In {target.parent} there is already: {names}.", ("Replace", "Leave as it is"))
            return True if answer == 0 else None
        except ChaptoError as error:
            self._refused(str(error))
            return None
        return False

    def _refused(self, sentence: str) -> None:
        self._ended(sentence)
        self._studio.message.emit(sentence)

    def _ended(self, sentence: str) -> None:
        if not sentence:
            kept = "what was there is as it was" if self._there_before else "nothing was written"
            sentence = f"Stopped; {kept}. What is ready is kept for the next time."
        self.render_button.setEnabled(True)
        self.render_button.setText("Make everything")
        for one in (self._alone, self._soon, self._send):
            one.show()
        self._stop.hide()
        press = "play it" if self.making.previewed is not None else "open the folder"
        self.result.setText(f"{sentence} Press to {press}." if sentence.startswith("Made") else sentence)
        self.show_target()

    def show_result(self) -> None:
        """Open the folder of what was made; a preview is played."""
        if self.making.previewed is not None:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(self.making.previewed)))
        elif self.making.files:
            folder = (
                self.making.package
                if self.making.package in self.making.files[0].parents
                else self.making.files[0].parent
            )
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(folder)))

    def send(self) -> None:
        """What is sent where, over the window."""
        if self.sending is None:
            self.sending = SendSheet(
                self.window() or self, self._studio, self.site, self._package(), self._left_sending
            )

    def _left_sending(self) -> None:
        self.sending = None
        self.setFocus()

    def _package(self) -> Path | None:
        folder = self.making.package or self.folder
        return folder if (folder / "manifest.json").exists() else None

    # ── where to ─────────────────────────────────────────────────────────────────────────────────────────────
    @property
    def target(self) -> Path:
        """Where the video alone goes: as chosen, else beside the breakdown under a name that is free."""
        return self._chosen or default_video(self._studio.session.path)

    @target.setter
    def target(self, chosen: Path) -> None:
        self._chosen = chosen
        self.show_target()

    @property
    def folder(self) -> Path:
        """Where the package goes: beside the breakdown, or where the video was wanted."""
        usual = default_package(self._studio.session.path)
        return usual if self._chosen is None else self._chosen.parent / usual.name

    def _choose_target(self) -> None:
        kinds = "MP4, H.264 and AAC (*.mp4);;Matroska (*.mkv);;WebM, VP9 and Opus (*.webm)"
        # What is there already is asked about once, when the making begins.
        choosing = Choosing(self, self._studio.preferences, "video made")
        chosen, kind = choosing.new_file("Where to put the video", self.target, kinds)
        if chosen is not None:
            ending = next((e for e in (".webm", ".mkv") if e[1:] in kind), ".mp4")
            self.target = chosen if chosen.suffix else chosen.with_suffix(ending)

    def show_target(self) -> None:
        """Where it goes now."""
        if self.making.job is None and (self.isVisible() or not self._where.text()):
            self._where.setText(self.folder.name)
            self._folder.say(f"in {self.folder.parent}")


def _free_folder(folder: Path) -> Path:
    number = 2
    while (free := folder.with_name(f"{folder.name}-{number}")).exists():
        number += 1
    return free
