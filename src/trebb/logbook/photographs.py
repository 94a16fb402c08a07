"""Photographs: a picture file checked and made ready for the job."""

from __future__ import annotations

import io
from pathlib import Path

from trebb.core.errors import InputError
from trebb.logbook.store import sha256_of

MOST_BYTES = 40 * 1024 * 1024  # a job must still copy to a stick in a minute


class PhotographError(InputError):
    """A file that is not a picture, or too large."""


def read_photograph(path: Path) -> tuple[str, str, bytes]:
    """sha256, media type and bytes of an image file.

    Raises PhotographError: no such file, not an image, or over 40 MB.
    """
    from PIL import Image, UnidentifiedImageError  # only when a picture is added

    try:
        data = path.read_bytes()
    except OSError as error:
        raise PhotographError(path.name, f"it cannot be read ({error.strerror})") from None
    if len(data) > MOST_BYTES:
        raise PhotographError(path.name, f"{len(data) // 2**20} MB is too large; 40 MB is the most")
    try:
        with Image.open(io.BytesIO(data)) as image:
            image.verify()
            media_type = Image.MIME.get(image.format or "", "image/unknown")
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError):
        raise PhotographError(
            path.name, "this is not a picture; a JPEG, PNG, WebP or TIFF would do"
        ) from None
    return sha256_of(data), media_type, data
