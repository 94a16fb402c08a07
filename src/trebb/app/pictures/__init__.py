"""What an assembly looks like, as found and as predicted, by family. A new picture is one file and one line
in `make_picture`.
"""

from __future__ import annotations

from collections.abc import Callable

from trebb.app.pictures.base import CasePicture, PictureStack
from trebb.app.session import Session


def make_picture(family: str, session: Session) -> CasePicture:
    """The picture of that family, built when first wanted."""
    from trebb.app.pictures import bed, gib, lash, spindle, tram

    pictures: dict[str, Callable[[Session], CasePicture]] = {
        "screw_drive": lash.LashPicture,
        "spindle": spindle.SpindlePicture,
        "gib": gib.GibPicture,
        "tram": tram.TramPicture,
        "ways": bed.BedPicture,
        "headstock": bed.BedPicture,
        "tailstock": bed.BedPicture,
        "stand": bed.BedPicture,
    }
    return pictures[family](session)


def picture_stack(session: Session) -> PictureStack:
    """Pictures of every family, for a stop."""
    return PictureStack(session, make_picture)


__all__ = ["CasePicture", "PictureStack", "make_picture", "picture_stack"]
