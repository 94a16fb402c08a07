"""Putting the other pieces together: friction cones, castings, jaws and plates, cutters."""

from __future__ import annotations

from typing import Any

from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import CLEAN, MARKS
from trebb.core.machine.cone import FrictionCone
from trebb.core.safety import LOCK_OUT, SPRING, UNDER_POWER

_PROVE = FitStep("prove", "Ready to prove", ("last",), "", minutes=5)


def cone_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """Cone into its cup, its spring, its linkage, run in."""
    cone = subject if isinstance(subject, FrictionCone) else FrictionCone()
    return (
        MARKS,
        CLEAN,
        FitStep(
            "dry",
            "Face and cup wiped dry" if not cone.oiled else "Oil way of the face clear",
            ("clean",),
            "A finger's oil halves what a dry face holds.",
            "Wipe away from the lining.",
            minutes=5,
        ),
        FitStep(
            "pin",
            "Cross pin driven from its marked side",
            ("marks",),
            "From the other side it loosens and scores the cup.",
            "",
            minutes=5,
        ),
        FitStep(
            "in",
            "Cone on its shaft, into the cup by hand",
            ("dry", "pin"),
            "It must go home by hand before the spring helps.",
            minutes=10,
        ),
        FitStep(
            "spring",
            "Spring or lever on",
            ("in",),
            "Under load it cannot be looked at again.",
            "",
            SPRING,
            10,
        ),
        FitStep(
            "linkage",
            "Linkage set: grips before the middle of its travel",
            ("spring",),
            "At its end it follows no wear.",
            "Draw left read once more.",
            LOCK_OUT,
            10,
        ),
        FitStep(
            "last",
            "Run in: twenty light engagements, then cool",
            ("linkage",),
            "A new lining that is held long glazes.",
            "",
            UNDER_POWER,
            20,
            "runs",
        ),
        _PROVE,
    )


def casting_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A mended casting back in its place."""
    return (
        MARKS,
        FitStep(
            "cold",
            "Cold, and chalked once more",
            (),
            "Heat closes a crack that opens again cold.",
            minutes=10,
        ),
        FitStep(
            "seat",
            "Seat tried on its face, by feeler or blue",
            ("cold",),
            "Bolted down on a warped seat it cracks again.",
            "Scraped or milled, never shimmed at one corner.",
            minutes=15,
        ),
        FitStep(
            "bore",
            "Its shaft tried in the bore",
            ("cold",),
            "Tight in the hand is bound in the machine.",
            "Bored or reamed in line now, if at all.",
            minutes=10,
        ),
        FitStep(
            "bolt",
            "Bolted, from the middle, by turns",
            ("seat", "bore", "marks"),
            "One screw drawn first springs it.",
            "Dowels last.",
            minutes=10,
        ),
        FitStep(
            "last", "Shaft still turns by two fingers", ("bolt",), "If not, it was sprung.", "", LOCK_OUT, 5
        ),
        _PROVE,
    )


def jaw_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """Jaw plates on, the vise in line on its table."""
    return (
        MARKS,
        CLEAN,
        FitStep(
            "burrs",
            "Burrs stoned off every seat",
            ("clean",),
            "A burr under a plate is its new angle.",
            minutes=10,
        ),
        FitStep(
            "plates", "Plates on, screws drawn evenly", ("burrs",), "One drawn first cocks it.", minutes=10
        ),
        FitStep(
            "parallel",
            "A parallel pinched: it holds at four corners alike",
            ("plates",),
            "If not, look under the plates before the jaw is blamed.",
            minutes=5,
        ),
        FitStep("last", "Set in line by its fixed jaw", ("parallel",), "The moving jaw lifts.", minutes=10),
        _PROVE,
    )


def index_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """An index plate on its spindle, its detent to its holes."""
    return (
        MARKS,
        CLEAN,
        FitStep(
            "centre",
            "Plate centred by its holes",
            ("clean",),
            "By its rim it is as good as its rim.",
            minutes=15,
        ),
        FitStep("screws", "Screws drawn, read again", ("centre",), "They pull it off centre.", minutes=5),
        FitStep(
            "detent",
            "Detent into every hole by hand",
            ("screws",),
            "One that sticks is a hole that is off.",
            minutes=10,
        ),
        FitStep(
            "last",
            "Once round: the first hole again",
            ("detent",),
            "A circle that does not close was miscounted.",
            minutes=5,
        ),
        _PROVE,
    )


def cutter_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A cutter into its holder."""
    return (
        FitStep(
            "clean",
            "Holder, shank and nut wiped",
            (),
            "A chip of a hundredth is a hundredth of runout.",
            minutes=3,
        ),
        FitStep(
            "mark",
            "First flute to the holder's mark",
            ("clean",),
            "Read one way it is true one way.",
            minutes=2,
        ),
        FitStep(
            "last",
            "Nut drawn, edges read again",
            ("mark",),
            "A nut that is drawn hard bends a collet.",
            minutes=5,
        ),
        _PROVE,
    )


def way_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A way that was scraped, its slide back on it."""
    return (
        CLEAN,
        FitStep(
            "burrs",
            "Edges broken, oil grooves clear",
            ("clean",),
            "A sharp edge is the first burr.",
            minutes=15,
        ),
        FitStep(
            "blue",
            "Slide blued on its ways, once more",
            ("burrs",),
            "Two flat faces need not fit.",
            minutes=20,
        ),
        FitStep(
            "gib",
            "Gib for what came off",
            ("blue",),
            "It stands further in now: see that it still has travel.",
            minutes=20,
        ),
        FitStep(
            "last",
            "Screw and nut in line again",
            ("gib",),
            "The slide stands lower than its nut.",
            minutes=20,
        ),
        _PROVE,
    )
