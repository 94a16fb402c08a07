"""What holds a block nut: spigot in its hole as measured, bolts clear of the thread, adjusting screw,
room.
"""

import pytest

from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.machine.workshop import Workshop
from trebb.core.making.routes import route
from trebb.core.parts import PartInputs, family
from trebb.core.parts.drawing import Title, laid_out
from trebb.core.units import UnitSystem

# 3/4-8 Acme: the nut's major is 0.790 in at most, so 10.03 mm from the axis is thread.
THREAD_MM = 0.790 * 25.4 / 2


def nut(**facts):
    return family("nut").build(
        PartInputs(
            ScrewDrive(), Workshop(), {"height": 42.0, "axis_height": 24.0, **facts}, system=UnitSystem.METRIC
        )
    )


def wrong(part):
    return [c.sentence for c in part.checks if not c.is_ok]


def test_a_spigot_is_turned_to_its_hole_as_measured():
    part = nut(spigot=20.0, spigot_hole=20.05)
    band = part.band("spigot")  # ISO 286 g6 over 18 to 30 mm: -7 and -20 um
    assert (band.low_mm, band.high_mm) == pytest.approx((20.030, 20.043))
    assert not any("spigot" in s for s in wrong(part))


def test_a_spigot_whose_hole_nobody_read_says_so():
    assert any("not measured" in s for s in wrong(nut(spigot=20.0)))


def test_bolts_never_reach_the_thread():
    part = nut(bolts="M6", bolts_apart=25.0)
    (bolt, _) = [f for f in part.features if f.kind == "bolt"]
    assert bolt.depth_mm == pytest.approx(1.5 * 6.0)
    low = nut(axis_height=17.0, bolts="M6", bolts_apart=25.0)
    (bolt, _) = [f for f in low.features if f.kind == "bolt"]
    assert bolt.depth_mm == pytest.approx(17.0 - THREAD_MM - 1.0, abs=0.01)
    assert any("run into the thread" in s for s in wrong(low))


@pytest.mark.parametrize(
    ("facts", "said"),
    [
        ({"bolts": "M6", "bolts_apart": 36.0}, "out of the ends"),
        ({"bolts": "M6", "bolts_apart": 4.0}, "into each other"),
        ({"bolts": "M6", "bolts_apart": 25.0, "spigot": 22.0, "spigot_hole": 22.0}, "into the spigot"),
        ({"above": 15.0}, "the casting leaves"),
        ({"spigot": 60.0, "spigot_hole": 60.0}, "wider than the base"),
        ({"style": "split", "adjuster": "M10"}, "no room for M10"),
        ({"style": "split", "adjuster": "none"}, "not chosen"),
    ],
)
def test_what_would_spoil_it_says_so(facts, said):
    assert any(said in s for s in wrong(nut(**facts)))


def test_a_split_nut_comes_with_a_screw_that_passes_over_the_thread():
    part = nut(style="split")
    (screw,) = [f for f in part.features if f.kind == "adjuster"]
    assert screw.depth_mm - screw.width_mm / 2 >= THREAD_MM + 1.0
    assert screw.depth_mm + screw.width_mm / 2 <= 42.0 - 24.0 - 1.0
    assert not any("adjusting" in s or "no room" in s for s in wrong(part))


def test_its_seat_is_made_before_it_is_bored():
    keys = [o.key for o in route(nut(spigot=20.0, spigot_hole=20.0, bolts="M6"), ScrewDrive(), Workshop())]
    assert keys.index("spigot") < keys.index("bolts") < keys.index("bore")
    assert "spigot" not in [o.key for o in route(nut(), ScrewDrive(), Workshop())]


@pytest.mark.parametrize("system", list(UnitSystem))
@pytest.mark.parametrize("spigot", [8.0, 14.0, 20.0, 26.0])
def test_it_is_drawn_at_a_scale_that_a_shop_can_read(system, spigot):
    part = nut(style="split", spigot=spigot, spigot_hole=spigot, bolts="M5")
    page, scale = laid_out(part, system, Title())
    assert not page.overflows
    assert scale >= 0.5
    words = [t.words for t in page.texts] + [d.words for d in page.dims]
    assert any("long" in w for w in words)
    assert any("2 × M5" in w and "apart" in w for w in words)


# in a gear's hub ------------------------------------------------------------------------------------


def hub(**facts):
    return family("nut").build(
        PartInputs(ScrewDrive(), Workshop(), {"style": "hub", **facts}, system=UnitSystem.METRIC)
    )


READ = {"hub_read": "measured", "hub_bore": 28.0, "hub_root": 45.0}


def test_a_bush_is_turned_to_press_into_the_hub_as_bored():
    part = hub(**READ)
    band = part.band("outside")
    # 0.8 um to a mm of 28 mm: 22.4 um over the bore at least, 10 um wide.
    assert (band.low_mm, band.high_mm) == pytest.approx((28.0224, 28.0324))
    assert wrong(part) == []
    assert "gear's hub" in part.title


@pytest.mark.parametrize(
    ("facts", "said"),
    [
        ({**READ, "hub_root": 32.0}, "cracks or opens the teeth"),
        ({**READ, "hub_bore": 22.0}, "bore the hub larger"),
        ({"hub_bore": 28.0, "hub_root": 45.0}, "not bored yet"),
        ({"hub_read": "measured", "hub_bore": 28.0}, "outside is not measured"),
    ],
)
def test_a_hub_that_will_not_take_it_says_so(facts, said):
    assert any(said in s for s in wrong(hub(**facts)))


def test_the_hub_is_bored_and_the_bush_pressed_before_it_is_threaded():
    keys = [o.key for o in route(hub(**READ), ScrewDrive(), Workshop())]
    order = [keys.index(k) for k in ("hub", "turn", "press", "index", "bore", "nut_thread", "oil", "try")]
    assert order == sorted(order)
    assert "block" not in keys
