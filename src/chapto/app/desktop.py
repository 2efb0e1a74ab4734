"""Chapto in the desktop's menus, under the user's XDG folders: `python -m chapto.app.desktop install`.

Desktop entry, file type, AppStream metainfo, icons and manual page; the files themselves lie in `system/`, and packages
of the whole application take them from there.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from collections.abc import Iterable
from pathlib import Path

from chapto.app.theme import ICONS

APP_ID = "org.chapto.Chapto"
SYSTEM = Path(__file__).parent / "system"
BEFORE = ("applications/chapto.desktop", "mime/packages/chapto.xml", "icons/hicolor/scalable/apps/chapto.svg")
"""Where versions before the reverse-DNS name put their files."""


def data_home() -> Path:
    """The user's XDG data folder."""
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")


def installed_files(data: Path) -> dict[Path, Path]:
    """Each place under `data` that a file goes to, and where it lies in Chapto."""
    icons, icon = data / "icons" / "hicolor" / "scalable", ICONS / f"{APP_ID}.svg"
    return {
        data / "applications" / f"{APP_ID}.desktop": SYSTEM / f"{APP_ID}.desktop",
        data / "mime" / "packages" / f"{APP_ID}.xml": SYSTEM / f"{APP_ID}.xml",
        data / "metainfo" / f"{APP_ID}.metainfo.xml": SYSTEM / f"{APP_ID}.metainfo.xml",
        data / "man" / "man1" / "chapto.1": SYSTEM / "chapto.1",
        icons / "apps" / f"{APP_ID}.svg": icon,
        icons / "mimetypes" / "application-x-chapto.svg": icon,
    }


def install(command: Path, data: Path) -> tuple[Path, ...]:
    """Write all files under `data`, for the program at `command`; returns them."""
    files = installed_files(data)
    for place, source in files.items():
        place.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(source, place)
    entry = next(iter(files))
    entry.write_text(entry.read_text("utf-8").replace("Exec=chapto %f", f'Exec="{command}" %f'), "utf-8")
    _take_away(data / place for place in BEFORE)
    _refresh(data)
    return tuple(files)


def uninstall(data: Path) -> None:
    """Take away what `install` wrote."""
    _take_away([*installed_files(data), *(data / place for place in BEFORE)])
    _refresh(data)


def _take_away(places: Iterable[Path]) -> None:
    for place in places:
        place.unlink(missing_ok=True)


def _refresh(data: Path) -> None:
    """Tell the desktop's own indexes, where those programs exist."""
    for program, folder in (
        ("update-desktop-database", data / "applications"),
        ("update-mime-database", data / "mime"),
    ):
        if shutil.which(program) and folder.is_dir():
            subprocess.run([program, str(folder)], check=False, capture_output=True)


def main(arguments: list[str]) -> int:
    """`install` or `uninstall`; the exit status."""
    if arguments == ["install"]:
        command = Path(sys.executable).with_name("chapto")
        print("Installed:", *(f"  {p}" for p in install(command, data_home())), sep="\n")
        return 0
    if arguments == ["uninstall"]:
        uninstall(data_home())
        return 0
    print("use: python -m chapto.app.desktop install|uninstall", file=sys.stderr)
    return 2


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
