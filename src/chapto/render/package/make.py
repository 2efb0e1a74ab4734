"""Making a package: all its parts in a new folder, which takes the place of the one before when all are there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from chapto import __version__
from chapto.errors import Cancelled, ChaptoError
from chapto.publish.manifest import NAME, Manifest, PackedFile, encode, packed_file, read_manifest, strangers
from chapto.publish.roles import SUFFIX
from chapto.render.package.making import Making
from chapto.render.package.parts import PARTS, Part
from chapto.render.production import Production
from chapto.render.worker import Encoders
from chapto.store.errors import plain_reason
from chapto.store.whole_folder import whole_folder
from chapto.voice.guide import GuideVoice


class PackageError(ChaptoError):
    """A package that can't be made."""


class NotOurs(PackageError):
    """A folder that holds what is no package's: `names` of it."""

    def __init__(self, folder: Path, names: tuple[str, ...]) -> None:
        shown = ", ".join(f"“{n}”" for n in names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")
        super().__init__(f"“{folder.name}” holds {shown}, which Chapto did not make; put that elsewhere first.")
        self.names = names


@dataclass(frozen=True)
class Progress:
    """How far a package is: the `part` being made (by number in `PARTS`), its share done, and that of the whole."""

    part: int
    share: float
    whole: float


def check_folder(folder: Path, *, thorough: bool = True) -> None:
    """Raise `PackageError` where a package must not be put: over a file, or over what somebody else put there. Without
    being `thorough` it reads no file, and takes no time."""
    if folder.exists() and not folder.is_dir():
        raise PackageError(f"“{folder.name}” is a file; give the folder another name.")
    if not folder.parent.is_dir():
        raise PackageError(f"The folder “{folder.parent}” is not there; choose another place.")
    if not folder.is_dir():
        return
    manifest = read_manifest(folder)
    try:
        inside = tuple(sorted(p.name for p in folder.iterdir()))
        found = strangers(folder, manifest, thorough=thorough) if manifest is not None else inside
    except OSError as error:
        raise PackageError(f"“{folder.name}” can't be looked into: {plain_reason(error)}.") from None
    if found:
        raise NotOurs(folder, found)


def make_package(
    production: Production,
    project: Path | None,
    folder: Path,
    guide: GuideVoice,
    *,
    suffix: str = ".mp4",
    workers: Encoders | None = None,
    told: Callable[[Progress], None] = lambda progress: None,
    ready: Callable[[tuple[tuple[int, int], ...]], None] = lambda spans: None,
    say: Callable[[str], object] = lambda sentence: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Manifest:
    """Make everything that goes out into `folder`. An earlier package there is replaced in one step at the end; when
    stopped or at a kill it stands as it was. What had to be left out is told to `say` in a sentence. Raises
    `PackageError`, `Cancelled`, and what a render raises."""
    check_folder(folder)
    name = (project.stem if project is not None else folder.name.removesuffix(SUFFIX)) or "breakdown"
    with whole_folder(folder) as part:
        making = Making(
            production, project, part, name, suffix, guide, workers, ready=ready, say=say, cancelled=cancelled
        )
        files: list[PackedFile] = []
        for number, one in enumerate(PARTS):
            if cancelled():
                raise Cancelled
            making.progress = _share(told, number, one)
            making.progress(0.0)
            try:
                made = one.make(making)
            except OSError as error:
                raise PackageError(f"{one.name}: this could not be written: {plain_reason(error)}.") from None
            files += [packed_file(part, place, role.value) for place, role in made]
        manifest = Manifest(
            title=production.breakdown.title,
            made=datetime.now(UTC).isoformat(timespec="seconds").replace("+00:00", "Z"),
            chapto=__version__,
            seconds=float(production.programme.seconds),
            files=tuple(sorted(files, key=lambda f: f.path)),
        )
        try:
            (part / NAME).write_bytes(encode(manifest))
        except OSError as error:
            raise PackageError(f"The manifest could not be written: {plain_reason(error)}.") from None
        # What was put into the earlier one meanwhile is not swept away.
        check_folder(folder)
    told(Progress(len(PARTS), 1.0, 1.0))
    return manifest


def _share(told: Callable[[Progress], None], number: int, part: Part) -> Callable[[float], None]:
    whole = sum(p.work for p in PARTS)
    before = sum(p.work for p in PARTS[:number])
    return lambda share: told(Progress(number, share, (before + share * part.work) / whole))
