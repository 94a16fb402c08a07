"""What an assembly looks like, as found and as predicted, by family. A new picture is one file and one line
in `PICTURES`.
"""

from __future__ import annotations

from importlib import import_module

from trebb.app.pictures.base import CasePicture, PictureStack
from trebb.app.window.session import Session
from trebb.core.register import FAMILIES

# Family → module here and its class.
PICTURES = {
    "screw_drive": ("lash", "LashPicture"),
    "spindle": ("spindle", "SpindlePicture"),
    "gib": ("gib", "GibPicture"),
    "tram": ("tram", "TramPicture"),
    "shaft": ("shaft", "ShaftPicture"),
    "bore": ("bore", "BorePicture"),
    "gear": ("gear", "GearPicture"),
    "ways": ("bed", "BedPicture"),
    "headstock": ("bed", "BedPicture"),
    "tailstock": ("bed", "BedPicture"),
    "stand": ("bed", "BedPicture"),
}


def make_picture(family: str, session: Session) -> CasePicture:
    """The picture of that family, loaded and built when first wanted."""
    if family not in PICTURES and family in FAMILIES and FAMILIES[family].judging:
        from trebb.app.pictures.piece import PiecePicture

        return PiecePicture(session)
    module, name = PICTURES[family]
    made: CasePicture = getattr(import_module(f"trebb.app.pictures.{module}"), name)(session)
    return made


def picture_stack(session: Session) -> PictureStack:
    """Pictures of every family, for a stop."""
    return PictureStack(session, make_picture)


__all__ = ["CasePicture", "PictureStack", "make_picture", "picture_stack"]
