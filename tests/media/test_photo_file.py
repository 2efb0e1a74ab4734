"""Photos stand upright as any other program shows them, and what is no picture is refused in a sentence."""

import struct
from pathlib import Path

import cv2
import numpy as np
import pytest
from PyQt6.QtGui import QImageReader

from chapto.media.opening import MediaError
from chapto.media.photo_file import MOST_SIDE, is_photo, photo_size, read_photo


def picture() -> np.ndarray:
    """40 by 20 pixels: red at the left, blue at the right, white below."""
    rows = np.zeros((20, 40, 3), np.uint8)
    rows[:, :20], rows[:, 20:], rows[15:] = (0, 0, 255), (255, 0, 0), (255, 255, 255)
    return rows


def turned(jpeg: bytes, orientation: int) -> bytes:
    """A JPEG with an EXIF orientation (CIPA DC-008, tag 0x0112) put behind its start."""
    tiff = b"II*\x00" + struct.pack("<IHHHIII", 8, 1, 0x0112, 3, 1, orientation, 0)
    exif = b"Exif\x00\x00" + tiff
    return jpeg[:2] + b"\xff\xe1" + struct.pack(">H", len(exif) + 2) + exif + jpeg[2:]


@pytest.mark.parametrize("orientation", range(1, 9))
def test_a_jpeg_is_turned_as_its_camera_noted(tmp_path: Path, orientation: int) -> None:
    """Against Qt's own reader of images."""
    path = tmp_path / "turned.jpg"
    path.write_bytes(turned(cv2.imencode(".jpg", picture(), [cv2.IMWRITE_JPEG_QUALITY, 100])[1].tobytes(), orientation))
    reader = QImageReader(str(path))
    reader.setAutoTransform(True)
    wanted = reader.read()
    found = read_photo(path)
    assert photo_size(path) == (wanted.width(), wanted.height()) == found.shape[1::-1]
    for x, y in ((2, 2), (wanted.width() - 3, 2), (2, wanted.height() - 3), (wanted.width() - 3, wanted.height() - 3)):
        colour = wanted.pixelColor(x, y)
        assert np.abs(found[y, x].astype(int) - (colour.red(), colour.green(), colour.blue())).max() < 40


@pytest.mark.parametrize("suffix", [".png", ".webp", ".jpeg"])
def test_the_usual_kinds_are_read(tmp_path: Path, suffix: str) -> None:
    path = tmp_path / f"photo{suffix}"
    cv2.imwrite(str(path), picture())
    assert is_photo(path) and photo_size(path) == (40, 20)
    assert np.abs(read_photo(path)[5, 5].astype(int) - (255, 0, 0)).max() < 40


def test_a_large_one_is_kept_smaller_and_its_size_is_told(tmp_path: Path) -> None:
    path = tmp_path / "large.png"
    cv2.imwrite(str(path), np.zeros((1500, 3 * MOST_SIDE), dtype=np.uint8))
    assert photo_size(path) == (3 * MOST_SIDE, 1500) and read_photo(path).shape[:2] == (500, MOST_SIDE)


@pytest.mark.parametrize("content", [b"", b"not a picture", b"\x89PNG\r\n\x1a\n" + bytes(40), b"\xff\xd8\xff\xe0"])
def test_what_is_no_picture_is_refused(tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "no.png"
    path.write_bytes(content)
    with pytest.raises(MediaError, match="no picture"):
        read_photo(path)
    with pytest.raises(MediaError, match="can't be read"):
        read_photo(tmp_path / "missing.png")
