"""The nose of a spindle in section, the ground of the spindle set-ups' figures."""

from __future__ import annotations

from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, Shape, box, line

WIDTH, HEIGHT = 640.0, 150.0
AXIS, NOSE = 88.0, 190.0
BAR_END = 600.0


def frame(items: list[Item]) -> Figure:
    """Close a figure of the usual size."""
    return Figure(WIDTH, HEIGHT, tuple(items))


def nose(*, wash: str = "", bar: bool = False, chuck: bool = False) -> list[Item]:
    """Housing, two bearings, spindle with register and taper; perhaps a bar or a chuck with a pin in it."""
    items: list[Item] = [
        box(40, AXIS - 44, 112, 88),
        box(28, AXIS - 22, 124, 44),
        box(
            152,
            AXIS - 27,
            14,
            54,
            role=Role.BLUE if wash == "register" else Role.INK,
            wash=wash == "register",
        ),
        box(166, AXIS - 22, NOSE - 166, 44),
    ]
    for x in (48.0, 122.0):
        washed = wash == "bearings"
        role = Role.BLUE if washed else Role.INK
        items += [box(x, AXIS - 40, 22, 18, role=role, wash=washed), Circle((x + 11, AXIS - 31), 6, role)]
        items += [box(x, AXIS + 22, 22, 18, role=role, wash=washed), Circle((x + 11, AXIS + 31), 6, role)]
    items += [
        line((NOSE, AXIS - 14), (100, AXIS - 8)),
        line((NOSE, AXIS + 14), (100, AXIS + 8)),
        line((14, AXIS), (WIDTH - 20, AXIS), role=Role.HATCH),
    ]
    if bar:
        role, washed = (Role.BLUE, True) if wash == "bar" else (Role.INK, False)
        items += [
            Shape(
                (
                    (104, AXIS - 8),
                    (NOSE, AXIS - 14),
                    (NOSE + 8, AXIS - 9),
                    (BAR_END, AXIS - 9),
                    (BAR_END, AXIS + 9),
                    (NOSE + 8, AXIS + 9),
                    (NOSE, AXIS + 14),
                    (104, AXIS + 8),
                ),
                True,
                role,
                "",
                washed,
            )
        ]
        items += [
            Circle((NOSE + 18, AXIS - 3), 2.5, role),
            Label((NOSE + 24, AXIS + 30), "index mark", anchor="left"),
        ]
    if chuck:
        items += [
            box(NOSE, AXIS - 46, 70, 92),
            box(NOSE + 70, AXIS - 26, 20, 16),
            box(NOSE + 70, AXIS + 10, 20, 16),
            box(NOSE + 62, AXIS - 8, 190, 16, role=Role.BLUE, wash=True),
        ]
    return items


def plane_x(mm: float, far_mm: float) -> float:
    """Where a plane outward from the nose is drawn. In figure units."""
    return NOSE + 24 + (BAR_END - NOSE - 60) * max(0.0, min(1.0, mm / max(far_mm, 1.0)))


def indicators(planes: list[tuple[float, str, bool]], top: float = AXIS - 9) -> list[Item]:
    """Indicators from above at planes: (x, words, here). The one to be read is in ink with its plunger, the
    others a mark. In figure units.
    """
    items: list[Item] = []
    for x, words, here in planes:
        if here:
            items.append(Indicator((x, top), (0, -1)))
        else:
            items.append(line((x, top - 26), (x, top), role=Role.SOFT))
        items.append(Label((x, AXIS + 56), words, Role.BLUE if here else Role.SOFT, strong=here))
    return items


def turning() -> list[Item]:
    """The spindle is turned by hand."""
    return [
        Arrow((18, AXIS - 28), (18, AXIS + 28), both_ways=False),
        Label((24, 146), "by hand", anchor="left"),
    ]


def journal_figure(where: str, bore: bool) -> Figure:
    """A bare spindle on vee blocks, or a bearing's housing."""
    items: list[Item] = []
    if bore:
        items += [
            box(180, 20, 280, 116),
            box(240, 44, 160, 68, role=Role.BLUE, wash=True),
            Label((320, 82), "housing", Role.BLUE),
        ]
        items += [
            Arrow((320, 66), (320, 46)),
            Arrow((320, 92), (320, 110)),
            Label((470, 82), "bore gauge: 0°, 45°, 90°, 135°, in and out", anchor="left"),
        ]
        return frame(items)
    items += [
        box(60, AXIS - 18, 520, 36),
        box(440, AXIS - 28, 70, 56, role=Role.BLUE if where == "front" else Role.INK, wash=where == "front"),
    ]
    items += [
        box(150, AXIS - 24, 60, 48, role=Role.BLUE if where == "rear" else Role.INK, wash=where == "rear"),
        box(540, AXIS - 40, 26, 80),
    ]
    x = 475.0 if where == "front" else 180.0
    half = 28 if where == "front" else 24
    items += [
        Arrow((x, AXIS - half - 26), (x, AXIS - half - 2)),
        Arrow((x, AXIS + half + 17), (x, AXIS + half + 2)),
        Label(
            (x + 44, 26),
            "micrometer, two directions, near and far end",
            Role.BLUE,
            "right" if where == "front" else "left",
        ),
    ]
    items += [Label((180, 146), "rear journal"), Label((475, 146), "front journal")]
    return frame(items)
