"""What a picture says: words with the spot they stand at."""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import QRectF


class Said(Struct, frozen=True):
    """Words on a picture: whole, even where only their beginning was painted; the spot they stand at."""

    text: str
    spot: QRectF
    is_cut: bool = False
    is_shape: bool = False  # a state's mark, in words; they follow what the row is called
