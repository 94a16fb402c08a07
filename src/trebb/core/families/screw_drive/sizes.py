"""What the parts of a screw drive share of their sizes."""

from __future__ import annotations

from trebb.core.families.screw_drive.subject import ScrewDrive


def is_inch(drive: ScrewDrive) -> bool:
    """Whether the thread belongs to an inch series, and the part's sizes with it."""
    return drive.thread.form.is_inch_by_standard or drive.thread.pitch_words.endswith("tpi")
