"""Playing: the speaker's clock drives the picture."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, Qt, QTimer, pyqtSignal

from chapto.app.heard import Heard
from chapto.app.playhead import Playhead, View
from chapto.app.screen.nearer import Nearer
from chapto.app.studio import Studio
from chapto.document.talks import to_and_fro
from chapto.media.sound import RATE
from chapto.voice.loudspeaker import Loudspeaker
from chapto.voice.speaker import Source, Speaker


class Player(QObject):
    """Holds the playhead. `moved` follows every change of it, `playing_changed` every start and stop; in the mat view
    a `loop` of mat seconds is played over and over, and `fro` forwards and back. Moving or stopping ends the latter."""

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
        self.nearer = Nearer()
        self.loop: tuple[Fraction, Fraction] | None = None
        self.fro: tuple[Fraction, Fraction] | None = None
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
        if (head.view, head.mat) != (self.head.view, self.head.mat):
            self.fro = None
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
        """Play what is looked at, footage or programme, at another speed."""
        self.put(self.head.at_speed(speed))

    def go_to_end(self, *, begin: bool) -> None:
        """To the very begin or end of what is looked at."""
        footage = self._studio.breakdown.footage
        if self.head.view is View.WATCH:
            self.show_frame(0 if begin else self._studio.programme.frames - 1)
        elif footage:
            end = max(c.mat_out - 1 / c.fps for c in footage)
            self.show_mat(min(c.mat_in for c in footage) if begin else end)

    # ── looking and hearing ──────────────────────────────────────────────────────────────────────────────
    def look_nearer(self, factor: float, at: tuple[float, float] = (0.5, 0.5)) -> None:
        """Look at the picture nearer by a factor, about a place of its frame (0…1)."""
        self._look(self.nearer.zoomed(factor, at))

    def pan(self, dx: float, dy: float) -> None:
        """Look farther right and down, by shares of the frame."""
        self._look(self.nearer.panned(dx, dy))

    def _look(self, nearer: Nearer) -> None:
        if nearer != self.nearer:
            self.nearer = nearer
            self.moved.emit()

    @property
    def volume(self) -> float:
        """How loud it is played, 0 to 1; 0 while it is muted."""
        now = self._studio.preferences.now
        return 0.0 if now.muted else now.volume

    def set_volume(self, volume: float) -> None:
        """Play it louder or quieter, 0 to 1; it is heard again if it was muted."""
        self._studio.preferences.set(volume=round(min(max(volume, 0.0), 1.0), 2), muted=False)
        self._loudness_changed()

    def mute(self) -> None:
        """Hear nothing, or again."""
        self._studio.preferences.set(muted=not self._studio.preferences.now.muted)
        self._loudness_changed()

    def _loudness_changed(self) -> None:
        # What was mixed ahead is as loud as before.
        if self.playing:
            self.head = self._now()
            self._begin()
        self.playing_changed.emit()

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

    def go_to_and_fro(self, low: Fraction, high: Fraction) -> None:
        """Play the footage from mat second `low` to `high` and back, until it is moved or stopped."""
        self.fro, self.head = (low, high), replace(self.head, view=View.MAT, mat=low)
        self._play_on()

    def go_on(self) -> None:
        """What goes to and fro goes on forwards from where it is."""
        if self.fro is not None:
            self.head, self.fro = self._now(), None
            self._play_on()

    def _play_on(self) -> None:
        """Play from the playhead, be it playing already or not."""
        if not self.playing:
            self.play()
            return
        self._begin()
        self.moved.emit()

    def pause(self) -> None:
        """Stop where it is."""
        self.fro = None
        if self.playing:
            self.playing = False
            self._timer.stop()
            self.speaker.stop()
            self.playing_changed.emit()

    def _begin(self) -> None:
        self._from = self.head
        volume = self.volume
        if self.head.view is View.WATCH:
            mix, fps = self._studio.mix(self.heard), self._studio.programme.fps
            source = mix.read if self.head.watch_speed == 1 else _silence
            self.speaker.start(_at_volume(source, volume), round(self.head.frame / fps * RATE))
        else:
            heard: Source = _silence if self.heard is Heard.NOTHING else self._mat_sound()
            self.speaker.start(_at_volume(heard, volume), 0)

    def close(self) -> None:
        """Stop for good."""
        self.pause()
        self.speaker.close()

    def _mat_sound(self) -> Source:
        """Sound of the footage from where the playhead is, as things are now: it is read in another thread. Silent at
        other speeds than 1."""
        head, footage, angles = self._from, self._studio.breakdown.footage, self._studio.angles
        fro = self.fro is not None
        sounds = dict(self._files.sounds)

        def read(first: int, count: int) -> NDArray[np.float32]:
            mat = head.mat + Fraction(first, RATE)
            camera = replace(head, mat=mat).camera(footage, angles)
            if head.speed != 1 or fro or camera is None or camera.id not in sounds:
                return np.zeros((count, 2), np.float32)
            return sounds[camera.id].read(round(camera.media_time(mat) * RATE), count)

        return read

    def tick(self) -> None:
        """Move the playhead to what has been played by now."""
        programme = self._studio.programme
        if self.head.view is View.WATCH:
            frame = self._now().frame
            if frame >= programme.frames:
                self.head = replace(self.head, frame=max(programme.frames - 1, 0))
                self.pause()
                self.moved.emit()
            elif frame != self.head.frame:
                self.head = replace(self.head, frame=frame)
                self.moved.emit()
            return
        mat = self._now().mat
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

    def _now(self) -> Playhead:
        """Where the clock of the sound is, be there a picture or not."""
        played = Fraction(self.speaker.played())
        if self.head.view is View.WATCH:
            frames = int(played * self._studio.programme.fps * self._from.watch_speed)
            return replace(self.head, frame=self._from.frame + frames)
        mat = self._from.mat + played * self._from.speed
        return replace(self.head, mat=mat if self.fro is None else to_and_fro(mat, self.fro))

    def _recompiled(self) -> None:
        """The programme is another: stay on the picture that was there, as far as it still exists."""
        last = max(self._studio.programme.frames - 1, 0)
        if self.head.frame > last:
            self.head = replace(self.head, frame=last)
        if self.playing and self.head.view is View.WATCH:
            self._begin()
        self.moved.emit()


def _silence(first: int, count: int) -> NDArray[np.float32]:
    return np.zeros((count, 2), np.float32)


def _at_volume(source: Source, volume: float) -> Source:
    """A source as loud as is wished, 0 to 1."""
    return source if volume == 1 else lambda first, count: source(first, count) * np.float32(volume)
