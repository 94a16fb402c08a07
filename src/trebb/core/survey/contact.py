"""Contact with marking blue, of a taper or of a gib: where it rubs, and what each pattern means."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from msgspec import Struct

from trebb.core.words import large

# The taper unrolled: rows from mouth to back, columns round the turn.
ROWS, COLUMNS = 8, 24
# Shop practice for a taper that is to hold by friction alone.
WANTED_SHARE = 0.70


class Contact(Struct, frozen=True):
    """What the rubbed patches say: shares 0 to 1 of the whole, of the mouth's half, of the back's; how
    one-sided, and toward which dial angle.

    `one_sided` is 0 for contact spread evenly round the turn, 1 for all at one angle.
    """

    share: float
    mouth: float
    back: float
    one_sided: float
    toward_deg: float
    pattern: str
    meaning: str


def cells_of(text: str) -> frozenset[int]:
    """Painted cells from their stored text: one character a cell, row by row, "1" rubbed."""
    return frozenset(i for i, c in enumerate(text[: ROWS * COLUMNS]) if c == "1")


def text_of(cells: frozenset[int]) -> str:
    """Painted cells as stored."""
    return "".join("1" if i in cells else "0" for i in range(ROWS * COLUMNS))


def contact_of(cells: frozenset[int]) -> Contact:
    """Grade a pattern.

    Cells are equal in height and angle; those nearer the mouth stand for a
    little more metal, which is left out: it is under a tenth on slow tapers.
    """
    import cmath
    import math

    whole = ROWS * COLUMNS
    share = len(cells) / whole
    mouth = sum(i // COLUMNS < ROWS // 2 for i in cells) / (whole / 2)
    back = sum(i // COLUMNS >= ROWS // 2 for i in cells) / (whole / 2)
    pull = sum((cmath.rect(1, 2 * math.pi * (i % COLUMNS + 0.5) / COLUMNS) for i in cells), 0j)
    one_sided = abs(pull) / len(cells) if cells else 0.0
    toward = math.degrees(cmath.phase(pull)) % 360 if cells else 0.0
    pattern, meaning = _pattern(share, mouth, back, one_sided)
    return Contact(share, mouth, back, one_sided, toward, pattern, meaning)


def _pattern(share: float, mouth: float, back: float, one_sided: float) -> tuple[str, str]:
    if share == 0:
        return "nothing painted", "Paint where the blue rubbed."
    if one_sided > 0.35:
        return (
            "one side",
            "It sits on one side: a burr, dirt, or a bent or bruised bar. Clean, stone the burr, blue again "
            "with another bar before cutting anything.",
        )
    if mouth > 2 * back and mouth - back > 0.25:
        return (
            "the mouth only",
            "It bears at the mouth and rocks at the back: the bore is bell-mouthed the other way, or the "
            "angle is wrong. Each seating leans as it likes.",
        )
    if back > 2 * mouth and back - mouth > 0.25:
        return (
            "the back only",
            "It bears deep and is free at the mouth: worn bell-mouthed. The bar leans over its whole length; "
            "this is the usual worn taper.",
        )
    if share >= WANTED_SHARE:
        return (
            "all round and along",
            "It bears as it should. If the bar does not repeat, look at the bar, the cleaning and the "
            "bearings first.",
        )
    return (
        "patches",
        "Scored or galled: high patches carry it. Stone the high ones with care; ream only a taper that a "
        "file cuts.",
    )


# a gib's face ---------------------------------------------------------------------------------

# Shop practice for a slide's gib.
GIB_SHARE = 0.50


class GibContact(Struct, frozen=True):
    """What the blue shows on a gib's face: shares 0 to 1 of the whole, of its thin, middle and thick thirds,
    of its upper and lower edge.
    """

    share: float
    thin: float
    middle: float
    thick: float
    upper: float
    lower: float
    pattern: str
    meaning: str


def gib_contact_of(cells: frozenset[int]) -> GibContact:
    """Grade a pattern on a gib: columns run from the thin to the thick end, rows from the upper to the lower
    edge.
    """
    third, half = COLUMNS // 3, ROWS // 2
    along = [sum(i % COLUMNS // third == k for i in cells) / (third * ROWS) for k in range(3)]
    edges = [sum((i // COLUMNS >= half) == low for i in cells) / (half * COLUMNS) for low in (False, True)]
    share = len(cells) / (ROWS * COLUMNS)
    return GibContact(
        share, along[0], along[1], along[2], edges[0], edges[1], *_gib_pattern(share, along, edges)
    )


def _gib_pattern(share: float, along: Sequence[float], edges: Sequence[float]) -> tuple[str, str]:
    thin, middle, thick = along
    if share == 0:
        return "nothing painted", "Paint where the blue rubbed."
    if max(edges) > 3 * min(edges) and max(edges) - min(edges) > 0.25:
        return (
            "one edge",
            "It bears along one edge: the gib's angle is not the dovetail's. Set it over by its angle before "
            "any taper is cut.",
        )
    if thin > 2 * thick and thin - thick > 0.10:
        return (
            "the thin end only",
            "Slot steeper than gib: scrape the thin end, where it bears, or make the gib steeper.",
        )
    if thick > 2 * thin and thick - thin > 0.10:
        return (
            "the thick end only",
            "Gib steeper than slot: scrape the thick end, where it bears. Was it home when it was felt?",
        )
    if middle > 2 * max(thin, thick) and middle - max(thin, thick) > 0.25:
        return "the middle only", "It is bowed and rocks on its middle: straighten it cold, then scrape."
    if min(thin, thick) > 2 * middle and min(thin, thick) - middle > 0.25:
        return (
            "both ends",
            "Hollow in the middle: bowed the other way, or the way is worn there. Slide it along: if the "
            "pattern moves it is the way.",
        )
    if share >= GIB_SHARE:
        return "all along", "It bears as it should."
    return "patches", "High spots carry it: scrape them, blue again."


def tooth_contact(cells: frozenset[int]) -> tuple[str, str]:
    """Share rubbed by tip, root, heel and toe; what the pattern means."""
    if not cells:
        return "", ""
    half_r, third = ROWS / 2, COLUMNS / 3

    def share(keep: Sequence[int]) -> float:
        return sum(1 for i in cells if i in set(keep)) / max(1, len(keep))

    all_ = range(ROWS * COLUMNS)
    tip = share([i for i in all_ if i // COLUMNS < half_r])
    root = share([i for i in all_ if i // COLUMNS >= half_r])
    heel = share([i for i in all_ if i % COLUMNS < third])
    toe = share([i for i in all_ if i % COLUMNS >= 2 * third])
    middle = share([i for i in all_ if third <= i % COLUMNS < 2 * third])
    head = f"{len(cells) / (ROWS * COLUMNS):.0%} rubbed: heel {heel:.0%}, middle {middle:.0%}, toe {toe:.0%}"
    if tip > 2 * root and tip - root > 0.2:
        return (
            head,
            "High, at the tips: this gear stands too far out. Bring it in, and its mate out by the lash.",
        )
    if root > 2 * tip and root - tip > 0.2:
        return (
            head,
            "Low, at the roots: this gear stands too deep. Bring it out, and its mate in by the lash.",
        )
    if heel > 2 * toe and heel - toe > 0.2:
        return (
            head,
            "At the heel, the large end: it breaks corners there. The shafts stand at a larger angle, or "
            "the pinion is too far in.",
        )
    if toe > 2 * heel and toe - heel > 0.2:
        return (
            head,
            "At the toe, the small end: safer than the heel, but the pinion stands too far out, or the "
            "shafts at a smaller angle.",
        )
    if middle < 0.5 * max(heel, toe):
        return head, "At both ends and not between: a hollow flank, or a tooth bent; look at several teeth."
    return head, "In the middle, leaning to the toe under load: as it should be."


def cone_contact(cells: frozenset[int]) -> tuple[str, str]:
    """Share rubbed of a friction cone by its ends; what the pattern means."""
    if not cells:
        return "", ""
    found = contact_of(cells)
    head = f"{found.share:.0%} rubbed: large end {found.mouth:.0%}, small end {found.back:.0%}"
    if found.one_sided > 0.35:
        return head, (
            f"One side, toward {found.toward_deg:.0f}°: cone or cup is not round, or they stand askew. "
            f"Look at "
            "the shaft before the lining."
        )
    if found.mouth > 2 * found.back and found.mouth - found.back > 0.2:
        return (
            head,
            "The large end only: its angle is larger than the cup's. It grabs, and wears to a ring there.",
        )
    if found.back > 2 * found.mouth and found.back - found.mouth > 0.2:
        return (
            head,
            "The small end only: its angle is smaller than the cup's. It holds little until it has worn.",
        )
    if found.share >= WANTED_SHARE:
        return head, "All round and along: it bears as it should."
    return head, "Patches: grooves or high rivets carry it. Skim it, or look for a proud head."


class Surface(Struct, frozen=True):
    """A painted face in words: its upper and lower border, marks evenly along it, what was rubbed on it, and
    the verdict on painted cells.
    """

    upper: str
    lower: str
    along: tuple[str, ...]
    rubbed: str
    look: str
    verdict: Callable[[frozenset[int]], tuple[str, str]]


def _taper_words(cells: frozenset[int]) -> tuple[str, str]:
    found = contact_of(cells)
    toward = f", toward {found.toward_deg:.0f}°" if found.one_sided > 0.35 else ""
    return (
        f"{found.share:.0%} rubbed: mouth {found.mouth:.0%}, back {found.back:.0%}",
        f"{large(found.pattern)}{toward}. {found.meaning}",
    )


def _gib_words(cells: frozenset[int]) -> tuple[str, str]:
    found = gib_contact_of(cells)
    return (
        f"{found.share:.0%} rubbed: thin end {found.thin:.0%}, middle {found.middle:.0%}, thick end "
        f"{found.thick:.0%}",
        f"{large(found.pattern)}. {found.meaning}",
    )


SURFACES = {
    "contact": Surface(
        "mouth",
        "back",
        ("0°", "90°", "180°", "270°", "360°"),
        "the taper took blue",
        "Look at the bar",
        _taper_words,
    ),
    "gear_contact": Surface(
        "tip", "root", ("heel", "middle", "toe"), "the tooth rubbed", "Look at the tooth", tooth_contact
    ),
    "bore_contact": Surface(
        "mouth",
        "back",
        ("0°", "90°", "180°", "270°", "360°"),
        "the arbor took blue",
        "Look at the arbor",
        _taper_words,
    ),
    "cone_contact": Surface(
        "large end",
        "small end",
        ("0°", "90°", "180°", "270°", "360°"),
        "the cone took blue",
        "Look at the cone",
        cone_contact,
    ),
    "gib_contact": Surface(
        "upper", "lower", ("thin end", "middle", "thick end"), "the gib rubbed", "Look at the gib", _gib_words
    ),
}
