"""The cross slide in section, the ground of the screw set-ups' figures."""

from __future__ import annotations

from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, Shape, box, line

WIDTH, HEIGHT = 640.0, 168.0
SCREW_Y, LEFT, RIGHT = 104.0, 128.0, 560.0


def _screw(left: float, right: float, y: float, radius: float) -> list[Item]:
    """A screw seen from the side: two edges and slanted thread lines."""
    items: list[Item] = [box(left, y - radius, right - left, 2 * radius)]
    x = left + 6
    while x + 6 < right:
        items.append(line((x, y + radius), (x + 5, y - radius), role=Role.SOFT))
        x += 9
    return items


def slide_section(
    drive: ScrewDrive, station: int | None, *, wheel_turns: bool = False, wash_nut: bool = False
) -> list[Item]:
    """Handwheel and dial (or the last wheel of a train), bearing, screw, nut and slide, the slide standing
    at a station (or the middle).
    """
    at = station or 3
    centre = 176 + (at - 1) * 68.0
    slide_left = centre - 84
    items: list[Item] = [
        box(150, 122, 426, 22),
        Label(
            (566, 160),
            "bed"
            if drive.half_nuts
            else "column"
            if drive.is_upright
            else "saddle"
            if drive.what == "cross slide"
            else "its ways",
            anchor="right",
        ),
        *_screw(LEFT, centre - 22, SCREW_Y, 8),
        *_screw(centre + 22, RIGHT, SCREW_Y, 8),
        box(100, SCREW_Y - 22, 28, 44),
        Label((114, 160), "bearing", anchor="middle"),
        box(60, SCREW_Y - 7, 40, 14),
        *_turned_by(drive),
        box(slide_left, 56, 168, 30),
        Label((slide_left + 10, 74), drive.what, anchor="left"),
        box(centre - 22, 86, 44, 34, role=Role.BLUE if wash_nut else Role.INK, wash=wash_nut),
        Label(
            (centre, SCREW_Y + 5), "halves" if drive.half_nuts else "nut", Role.BLUE if wash_nut else Role.INK
        ),
    ]
    for k in range(1, STATIONS + 1):
        x = 176 + (k - 1) * 68.0
        here = k == station
        items.append(line((x, 34), (x, 42), role=Role.BLUE if here else Role.SOFT))
        if station is not None:
            items.append(Label((x, 28), str(k), Role.BLUE if here else Role.SOFT, strong=here))
    if station is not None:
        items.append(Label((128, 28), "station", anchor="right"))
    if wheel_turns:
        items.append(Arrow((22, SCREW_Y - 34), (22, SCREW_Y + 34), both_ways=True))
    return items


def _turned_by(drive: ScrewDrive) -> list[Item]:
    """What turns the screw: a handwheel with its dial, or the last wheel of a train."""
    if not drive.has_dial and not drive.half_nuts:
        return [
            line((60, SCREW_Y), (48, SCREW_Y), (48, SCREW_Y - 40), (26, SCREW_Y - 40)),
            box(20, SCREW_Y - 46, 18, 12),
            Label((56, SCREW_Y - 52), "crank"),
        ]
    if not drive.has_dial:
        return [
            box(66, SCREW_Y - 34, 12, 68),
            *[
                line((66, SCREW_Y - 34 + 8 * k), (78, SCREW_Y - 34 + 8 * k), role=Role.SOFT)
                for k in range(1, 9)
            ],
            Label((72, SCREW_Y - 42), "last wheel"),
        ]
    return [
        box(68, SCREW_Y - 20, 14, 40),
        Label((75, SCREW_Y - 28), "dial"),
        box(40, SCREW_Y - 46, 12, 92),
        box(30, SCREW_Y + 24, 10, 8),
    ]


def frame(items: list[Item]) -> Figure:
    """Close a figure of the usual size."""
    return Figure(WIDTH, HEIGHT, tuple(items))


def thread_wires_figure(place_fraction: float, *, unworn: bool, crest: bool, thickness: bool) -> Figure:
    """The bare screw on vee blocks, and where along it the reading is taken. `place_fraction` from 0 to 1
    along the screw.
    """
    x = 120 + 400 * place_fraction
    items: list[Item] = [
        *_screw(96, 560, 92, 17),
        box(56, 82, 40, 20),
        Shape(((110, 150), (118, 112), (132, 126), (146, 112), (154, 150)), True),
        Shape(((502, 150), (510, 112), (524, 126), (538, 112), (546, 150)), True),
        Label((132, 164), "vee block"),
        Label((524, 164), "vee block"),
    ]
    role = Role.BLUE
    if thickness:
        items += [line((x - 8, 40), (x - 8, 80), role=role), line((x + 8, 40), (x + 8, 80), role=role)]
        items += [
            Arrow((x - 28, 50), (x - 9, 50)),
            Arrow((x + 28, 50), (x + 9, 50)),
            Label((x + 36, 54), "ridge at the pitch line", role, "left"),
        ]
    else:
        wires = (
            []
            if crest
            else [
                Circle((x - 9, 70), 5, role, wash=True),
                Circle((x + 9, 70), 5, role, wash=True),
                Circle((x, 114), 5, role, wash=True),
            ]
        )
        top, bottom = (74.0, 110.0) if crest else (64.0, 120.0)
        items += wires
        items += [
            line((x - 26, top), (x + 26, top), role=role),
            line((x - 26, bottom), (x + 26, bottom), role=role),
        ]
        items += [Arrow((x, 34), (x, top - 2)), Arrow((x, 154), (x, bottom + 2))]
        words = "micrometer over the crests" if crest else "micrometer over three wires"
        items.append(Label((x + 12, 40), words, role, "left" if x < 380 else "right"))
    if unworn:
        items.append(Label((x, 20), "never runs in the nut", Role.SOFT))
    return Figure(WIDTH, HEIGHT, tuple(items))


def indicator_on_slide(station: int) -> Indicator:
    """Indicator on the saddle, touching the slide's far end, reading along the travel."""
    return Indicator((176 + (station - 1) * 68.0 + 84, 66), (1, 0))
