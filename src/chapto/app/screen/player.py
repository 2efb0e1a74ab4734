"""Playing: the speaker's clock drives the picture."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, Qt, QTimer, pyqtSignal

from chapto.app.heard import Heard
from chapto.app.playhead import Playhead, View
from chapto.app.studio import Studio
from chapto.media.sound import RATE
from chapto.voice.loudspeaker import Loudspeaker
from chapto.voice.speaker import Source, Speaker


class Player(QObject):
    """Holds the playhead. `moved` follows every change of it, `playing_changed` every start and stop; in the mat view
    a `loop` of mat seconds is played over and over."""

    moved = pyqtSignal()
    playing_changed = pyqtSignal()

    def __init__(self, studio: Studio, *, speaker: Speaker | None = None) -> None:
        super().__init__()
        self._studio = studio
        self._files = studio.files
        self.speaker = speaker or Loudspeaker(studio.message.emit)
        self.head = Playhead()
        self.playing = False
        self.heard = Heard.ALL
        self.loop: tuple[Fraction, Fraction] | None = None
        self._from = self.head
        self._timer = QTimer(self)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.setInterval(8)
        self._timer.timeout.connect(self.tick)
        studio.compiled.connect(self._recompiled)

    @property
    def fps(self) -> Fraction:
        """Frames a second of the programme."""
        return self._studio.programme.fps

    # ── moving ───────────────────────────────────────────────────────────────────────────────────────────
    def put(self, head: Playhead) -> None:
        """Look somewhere else; while playing, go on from there."""
        if head == self.head:
            return
        self.head = head
        if self.playing:
            self._begin()
        self.moved.emit()

    def show_mat(self, mat: Fraction) -> None:
        """Look at a mat time in the footage."""
        self.put(replace(self.head, view=View.MAT, mat=max(mat, Fraction(0))))

    def look_through(self, footage_id: str) -> None:
        """Show the footage of one file where it was running; an empty id follows the angle track again."""
        self.put(replace(self.head, through=footage_id))

    def show_frame(self, frame: int) -> None:
        """Look at a frame of the programme."""
        last = max(self._studio.programme.frames - 1, 0)
        self.put(replace(self.head, view=View.WATCH, frame=min(max(frame, 0), last)))

    def switch(self, view: View) -> None:
        """Show the same picture in the other view."""
        self.put(self.head.switched(view, self._studio.programme))

    def jump(self, seconds: Fraction) -> None:
        """Move by seconds of the view's clock."""
        self.put(self.head.moved(seconds, self._studio.programme))

    def step(self, by: int) -> None:
        """Stop, and move by whole pictures: of the programme, or of the footage by its own time stamps."""
        self.pause()
        if self.head.view is View.WATCH:
            self.show_frame(self.head.frame + by)
            return
        camera = self.head.camera(self._studio.breakdown.footage, self._studio.angles)
        if camera is None or camera.id not in self._files.places:
            self.jump(Fraction(by, 30))
        else:
            self.show_mat(self._files.pictures.step(camera, self.head.mat, by))

    def set_speed(self, speed: Fraction) -> None:
        """Play the footage at another speed."""
        self.put(replace(self.head, speed=speed))

    # ── playing ──────────────────────────────────────────────────────────────────────────────────────────
    def toggle(self) -> None:
        """Play or stop."""
        if self.playing:
            self.pause()
        else:
            self.play()

    def play(self) -> None:
        """Play from where the playhead is; from the beginning when it is at the end."""
        programme = self._studio.programme
        if self.head.view is View.WATCH and self.head.frame >= programme.frames - 1:
            self.head = replace(self.head, frame=0)
        self.playing = True
        self._begin()
        self._timer.start()
        self.playing_changed.emit()

    def pause(self) -> None:
        """Stop where it is."""
        if self.playing:
            self.playing = False
            self._timer.stop()
            self.speaker.stop()
            self.playing_changed.emit()

    def _begin(self) -> None:
        self._from = self.head
        if self.head.view is View.WATCH:
            mix = self._studio.mix(self.heard)
            self.speaker.start(mix.read, round(self.head.frame / self._studio.programme.fps * RATE))
        else:
            self.speaker.start(self._mat_sound(), 0)

    def close(self) -> None:
        """Stop for good."""
        self.pause()
        self.speaker.close()

    def _mat_sound(self) -> Source:
        """Sound of the footage from where the playhead is, as things are now: it is read in another thread. Silent at
        other speeds than 1."""
        head, footage, angles = self._from, self._studio.breakdown.footage, self._studio.angles
        sounds = dict(self._files.sounds)

        def read(first: int, count: int) -> NDArray[np.float32]:
            mat = head.mat + Fraction(first, RATE)
            camera = replace(head, mat=mat).camera(footage, angles)
            if head.speed != 1 or camera is None or camera.id not in sounds:
                return np.zeros((count, 2), np.float32)
            return sounds[camera.id].read(round(camera.media_time(mat) * RATE), count)

        return read

    def tick(self) -> None:
        """Move the playhead to what has been played by now."""
        played = Fraction(self.speaker.played())
        programme = self._studio.programme
        if self.head.view is View.WATCH:
            frame = self._from.frame + int(played * programme.fps)
            if frame >= programme.frames:
                self.head = replace(self.head, frame=max(programme.frames - 1, 0))
                self.pause()
                self.moved.emit()
            elif frame != self.head.frame:
                self.head = replace(self.head, frame=frame)
                self.moved.emit()
            return
        mat = self._from.mat + played * self._from.speed
        if self.loop is not None and not self.loop[0] <= mat < self.loop[1]:
            self.put(replace(self.head, mat=self.loop[0]))
            return
        end = max((c.mat_out for c in self._studio.breakdown.footage), default=Fraction(0))
        if mat >= end:
            self.pause()
            return
        head = replace(self.head, mat=mat.limit_denominator(48_000))
        head = head.on_picture(self._studio.breakdown.footage, self._studio.angles)
        if head != self.head:
            self.head = head
            self.moved.emit()

    def _recompiled(self) -> None:
        """The programme is another: stay on the picture that was there, as far as it still exists."""
        last = max(self._studio.programme.frames - 1, 0)
        if self.head.frame > last:
            self.head = replace(self.head, frame=last)
        if self.playing and self.head.view is View.WATCH:
            self._begin()
        self.moved.emit()
