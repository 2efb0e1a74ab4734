"""A talk of some minutes becomes a document: seconds of work as a share of the take (aim: half, with the small model on
two cores), by the captions that came with it, by recognition where that is installed, and of the tidying alone."""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
TIMES = int(sys.argv[1]) if len(sys.argv) > 1 else 2
"""How often the demo's session is talked."""


def main() -> None:
    """Play the session and make documents of it."""
    from msgspec.structs import replace
    from scipy.io import wavfile

    from chapto.demo.story import FOOTAGE
    from chapto.demo.talk_project import SESSION, as_sound
    from chapto.document.checks import checked
    from chapto.media.sound import RATE
    from chapto.programme.compile import compile_programme
    from chapto.programme.knowledge import shipped_knowledge
    from chapto.render.new import new_breakdown
    from chapto.voice.listening.model import ListenError, model_folder
    from chapto.voice.new_talk import new_talk, put_talk
    from chapto.voice.recording.stand_in_talker import perform
    from chapto.voice.takes import known_lines

    with tempfile.TemporaryDirectory() as scratch:
        folder = Path(scratch)
        os.environ["XDG_CACHE_HOME"] = str(folder / "cache")
        played = perform(SESSION.read_text("utf-8") * TIMES, voice="en-us+f2")
        sound, take, captions = as_sound(played), folder / "take.wav", folder / "said.vtt"
        wavfile.write(take, RATE, (sound.read(0, len(sound)) * 32767).astype("int16"))
        captions.write_text(played.captions(), "utf-8")
        seconds, known = float(played.seconds), shipped_knowledge()
        print(f"a talk of {seconds:.0f} s")
        b = replace(new_breakdown([FOOTAGE / "tuesday-round.mp4"], folder), script=(), exchanges=())
        for name, given in (("captions", captions), ("recognition", None)):
            if given is None:
                try:
                    model_folder()
                except ListenError as error:
                    print(f"recognition: {error}")
                    continue
            start = time.perf_counter()
            talk = new_talk(folder / f"{name}.chapto", take, played.done, known, given)
            found = time.perf_counter()
            made = checked(put_talk(b, talk, known))
            laid = time.perf_counter()
            lines = (known_lines(made, t) or {} for t in made.takes)
            p = compile_programme(made, {i: line.line for row in lines for i, line in row.items() if line})
            done = time.perf_counter()
            met = sum(t.state.value == "met" for t in p.ties)
            print(
                f"{name}: {(done - start) / seconds:.2f} of the take ({(found - start) / seconds:.2f} to find "
                f"{len(talk.said)} words, {laid - found:.2f} s to tidy and lay out, {done - laid:.2f} s to compile); "
                f"{float(p.seconds):.0f} s of video, {met} of {len(p.ties)} ties met"
            )


if __name__ == "__main__":
    main()
