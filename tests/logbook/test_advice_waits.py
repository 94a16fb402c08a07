"""Advice waits where a repair of fewer hours may be enough and nobody read what it would leave."""

from __future__ import annotations

from tests.logbook.test_nothing_read import Shop
from trebb.logbook.log.entries import ReadingTaken


def read(shop: Shop, set_up: str, unit: str, **values: float) -> None:
    """Readings twice over, at places by name with their spaces as underscores."""
    shop.record(
        *(
            ReadingTaken(
                assembly=shop.case.assembly_key,
                set_up=set_up,
                place=place,
                phase="before",
                value=value,
                unit=unit,
            )
            for place, value in values.items()
            for _ in range(2)
        )
    )


def test_a_bed_known_to_be_twisted_is_not_scraped_because_nobody_looked_at_its_ridge():
    shop = Shop("ways")
    read(shop, "level_across", "mm/m", **{f"across, station {i}": 0.2 * i for i in range(9)})
    assert shop.case.advised() is None
    assert shop.case.advice_now().waits
    for way in ("front", "rear"):
        read(shop, "ridge", "mm", **{f"{way} way, station {i}": 0.0 for i in range(9)})
    assert shop.case.advised().key == "level"
    assert not shop.case.advice_now().waits


def test_one_lash_whose_parts_nobody_told_apart_buys_no_new_screw():
    shop = Shop("screw_drive")
    read(shop, "lash", "div", **{"station 3": 12.0})
    assert shop.case.advised() is None
    assert shop.case.advice_now().waits


def test_of_a_machine_inside_its_limits_no_advice_waits():
    shop = Shop("screw_drive")
    read(shop, "lash", "div", **{f"station {i}": 1.0 for i in range(1, 6)})
    assert not shop.case.advice_now().waits
