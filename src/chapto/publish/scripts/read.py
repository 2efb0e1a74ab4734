"""A script from a file of any of the formats read."""

from __future__ import annotations

from collections.abc import Collection
from pathlib import Path

from chapto.publish.scripts.caption_files import captions_as_parts
from chapto.publish.scripts.parts import ImportedSection, ScriptFileError
from chapto.publish.scripts.plain_text import parts_of


def read_script(path: Path, known: Collection[str] = ()) -> tuple[ImportedSection, ...]:
    """The script in a .txt, .md, .srt or .vtt file; `known` are names of people who speak. `ScriptFileError` says in a
    sentence why it can't be read."""
    try:
        text = path.read_text("utf-8-sig")
    except UnicodeDecodeError:
        raise ScriptFileError(f"“{path.name}” is no UTF-8 text; save it as such and open it again.") from None
    except OSError as error:
        raise ScriptFileError(f"“{path.name}” can't be read: {error.strerror or error}.") from None
    captions = path.suffix.lower() in (".srt", ".vtt")
    parts = captions_as_parts(text, path, known) if captions else parts_of(text, known)
    if not parts:
        raise ScriptFileError(f"There are no words in “{path.name}”.")
    return parts
