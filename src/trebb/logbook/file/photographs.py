"""Photographs: a picture file checked by its content and made ready for the job; small ones to show."""

from __future__ import annotations

import io
import struct
import warnings
import zlib
from pathlib import Path
from typing import TYPE_CHECKING

from trebb.core.errors import InputError
from trebb.logbook.file.given_files import read_given
from trebb.logbook.file.store import sha256_of

if TYPE_CHECKING:
    from PIL import Image

MOST_BYTES = 40 * 1024 * 1024  # a job must still copy to a stick in a minute
MOST_PIXELS = 120_000_000  # as the largest cameras; a file that says more wants the memory, not the eye
# By content, not by name: drawings that may hold links or programs are no photographs.
KINDS = ("JPEG", "PNG", "WEBP", "TIFF")
# How a telephone's HEIC or AVIF says what it is (ISO/IEC 23008-12, brands): told by name, for its owner knows
# it for a photograph.
HEIC_BRANDS = (b"heic", b"heix", b"hevc", b"heim", b"heis", b"mif1", b"msf1", b"avif")
SMALL_PX = 900  # what a thumbnail has at the most: as wide as it is ever shown


class PhotographError(InputError):
    """A file that is not a picture, or too large."""


def read_photograph(path: Path) -> tuple[str, str, bytes]:
    """sha256, media type and bytes of an image file, kept as given.

    It is decoded to its last line: a picture that is cut off says nothing of it in its head. Raises
    PhotographError: no such file, not a photograph, cut off, over 40 MB, or of more than 120 million pixels.
    """
    data = read_given(path, MOST_BYTES, PhotographError)
    return sha256_of(data), _media_type(path.name, data), data


def _media_type(name: str, data: bytes) -> str:
    """The media type of a picture's bytes; raises PhotographError."""
    from PIL import Image, UnidentifiedImageError  # only when a picture is added

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)  # counted below
            with Image.open(io.BytesIO(data), formats=KINDS) as image:
                wide, high = image.size
                if wide * high > MOST_PIXELS:
                    raise PhotographError(
                        name,
                        f"{wide} × {high} pixels are too many; {MOST_PIXELS // 10**6} million is the most",
                    )
                kind = Image.MIME.get(image.format or "", "image/unknown")
                image.draft(
                    "RGB", (wide // 8, high // 8)
                )  # a JPEG's every byte is read, in a third of the time
                _decode(name, image)
                return kind
    except Image.DecompressionBombError:
        raise PhotographError(
            name, f"it says it has more pixels than {MOST_PIXELS // 10**6} million, which is the most"
        ) from None
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, EOFError):
        if data[4:8] == b"ftyp" and data[8:12] in HEIC_BRANDS:
            raise PhotographError(
                name, "this is a HEIC photograph, which is not read here; send or save it as JPEG"
            ) from None
        raise PhotographError(name, "this is not a photograph; a JPEG, PNG, WebP or TIFF would do") from None


def _decode(name: str, image: Image.Image) -> None:
    """Every line of an opened picture, into nothing. Raises PhotographError where some are missing."""
    try:
        image.load()
    except (OSError, SyntaxError, ValueError, EOFError, IndexError, struct.error, zlib.error):
        raise PhotographError(
            name, "it is cut off or damaged: not all of it is there; copy it again"
        ) from None


def thumbnail(data: bytes, most_px: int = SMALL_PX) -> bytes:
    """A small picture of a photograph's bytes as PNG, turned as the camera was held.

    Raises PhotographError where the bytes cannot be shown.
    """
    from PIL import Image, ImageOps

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=KINDS) as image:
                if image.size[0] * image.size[1] > MOST_PIXELS:
                    raise PhotographError("this photograph", "it has too many pixels to be shown")
                image.draft("RGB", (most_px, most_px))  # a JPEG is read at an eighth of its size at once
                turned = ImageOps.exif_transpose(image) or image
                turned.thumbnail((most_px, most_px))
                out = io.BytesIO()
                turned.convert("RGB").save(out, "PNG", compress_level=1)
                return out.getvalue()
    except PhotographError:
        raise
    except (OSError, SyntaxError, ValueError, EOFError, Image.DecompressionBombError):
        raise PhotographError("this photograph", "its bytes cannot be shown; it is kept as it is") from None
