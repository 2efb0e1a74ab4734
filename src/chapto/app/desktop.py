"""Desktop entry, icon and file type under the user's XDG folders: `python -m chapto.app.desktop install`."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from pathlib import Path

from chapto.app.theme import ICONS

ENTRY = """[Desktop Entry]
Type=Application
Name=Chapto
Comment=Turn grappling footage into narrated breakdown videos
Exec="{command}" %f
Icon=chapto
Terminal=false
Categories=AudioVideo;Video;
MimeType=application/x-chapto;
StartupWMClass=chapto
"""
MIME = """<?xml version="1.0" encoding="UTF-8"?>
<mime-info xmlns="http://www.freedesktop.org/standards/shared-mime-info">
  <mime-type type="application/x-chapto">
    <comment>Chapto breakdown</comment>
    <sub-class-of type="application/json"/>
    <glob pattern="*.chapto"/>
    <icon name="chapto"/>
  </mime-type>
</mime-info>
"""


def data_home() -> Path:
    """The user's XDG data folder."""
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")


def installed_files(data: Path) -> tuple[Path, Path, Path, Path]:
    """Desktop entry, MIME type, icon of the application and icon of its files, under `data`."""
    icons = data / "icons" / "hicolor" / "scalable"
    return (
        data / "applications" / "chapto.desktop",
        data / "mime" / "packages" / "chapto.xml",
        icons / "apps" / "chapto.svg",
        icons / "mimetypes" / "application-x-chapto.svg",
    )


def install(command: Path, data: Path) -> tuple[Path, ...]:
    """Write all files under `data`, for the program at `command`; returns them."""
    files = installed_files(data)
    for path in files:
        path.parent.mkdir(parents=True, exist_ok=True)
    files[0].write_text(ENTRY.format(command=command), "utf-8")
    files[1].write_text(MIME, "utf-8")
    for path in files[2:]:
        shutil.copyfile(ICONS / "chapto.svg", path)
    _refresh(data)
    return files


def uninstall(data: Path) -> None:
    """Take away what `install` wrote."""
    for path in installed_files(data):
        path.unlink(missing_ok=True)
    _refresh(data)


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
