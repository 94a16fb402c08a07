"""What is bought ready, by its standard sizes: a bearing, a key, a pin, a rivet."""

from __future__ import annotations

from msgspec import Struct

from trebb.core.units import UnitSystem, show_size


class Item(Struct, frozen=True):
    """A thing as a seller names it: what it is, its sizes in mm in the order they are said (a bearing's bore,
    outside, width), how many.

    Parameters
    ----------
    note : a standard, a class, what it must be; "" for none.
    facts : keys of the facts its sizes are stated by: sizes that nobody stated are usual ones.
    """

    what: str
    sizes_mm: tuple[float, ...] = ()
    count: int = 1
    note: str = ""
    facts: tuple[str, ...] = ()

    def words(self, system: UnitSystem) -> str:
        """As it is asked for."""
        sizes = " × ".join(show_size(mm, system, unit=False) for mm in self.sizes_mm[:-1])
        last = show_size(self.sizes_mm[-1], system) if self.sizes_mm else ""
        size = " × ".join(filter(None, (sizes, last)))
        return ", ".join(filter(None, (self.what, size, self.note)))
