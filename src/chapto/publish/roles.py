"""What stands in a package: the role of each file, what it is called, and where it stands."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path


class Role(StrEnum):
    """What a file of a package is for."""

    VIDEO = "video"
    ARCHIVE = "archive"
    WEBVTT = "captions, WebVTT"
    SUBRIP = "captions, SubRip"
    CHAPTERS = "chapter list"
    DESCRIPTION = "description"
    THUMBNAIL = "thumbnail"
    SHORT = "short"
    STILL = "still"
    TRANSCRIPT = "transcript"
    STUDY_PAGE = "study sheet, HTML"
    STUDY_PDF = "study sheet, PDF"
    TIMELINE = "timeline"
    STEM = "sound stem"
    LOG = "log"


FOLDERS = {Role.SHORT: "shorts", Role.STILL: "stills", Role.STEM: "stems"}
"""Where roles with several files have a folder of their own."""
ENDINGS = {
    Role.ARCHIVE: ".mkv",
    Role.WEBVTT: ".vtt",
    Role.SUBRIP: ".srt",
    Role.CHAPTERS: ".chapters.txt",
    Role.DESCRIPTION: ".description.txt",
    Role.THUMBNAIL: ".thumbnail.jpg",
    Role.TRANSCRIPT: ".transcript.txt",
    Role.STUDY_PAGE: ".study.html",
    Role.STUDY_PDF: ".study.pdf",
    Role.TIMELINE: ".otio",
    Role.LOG: ".log.csv",
}
SUFFIX = "-package"


def default_package(project: Path | None) -> Path:
    """Where the package of a breakdown goes: `NAME-package` beside its file."""
    base = project.with_suffix("") if project else Path.home() / "new"
    return base.with_name(f"{base.name}{SUFFIX}")
