"""Drawings of every part family, over many sizes: no word meets another or leaves the frame, letters are of
one height on paper, and what is drawn is as large as the part.
"""

from __future__ import annotations

import random
import re
from pathlib import Path

import pytest
from msgspec.structs import replace

import trebb.app
from tests.lists import random_list
from trebb.core.errors import InputError, TrebbError
from trebb.core.machine.workshop import Workshop
from trebb.core.parts import PartInputs, all_families, drawing_of, family
from trebb.core.parts.base import Part, Section
from trebb.core.parts.controls import controls_of
from trebb.core.parts.drawing import GENERAL, Title, _in_cell, laid_out
from trebb.core.parts.page import HEIGHT, MARGIN, TEXT, TITLE_HIGH, WIDTH, Box, text_width
from trebb.core.parts.turned_sections import Place
from trebb.core.stating import usual_subject
from trebb.core.threads import Band
from trebb.core.units import UnitSystem

METRIC, INCH = UnitSystem.METRIC, UnitSystem.INCH
# What these families are worked out from, where nothing is drawn without it.
MEASURED = {"float": 0.05, "stand_out": 5.0, "lash": 0.9}


@pytest.fixture(scope="module")
def face():
    """The shipped face as the drawings are rendered with it."""
    from ezdxf.fonts import font_manager, fonts

    font_manager.DEFAULT_FONTS[:] = ["BarlowSemiCondensed-Medium.ttf"]
    fonts.font_manager.clear()
    fonts.font_manager.build([str(Path(trebb.app.__file__).parent / "fonts")], support_dirs=False)
    return fonts.make_font("BarlowSemiCondensed-Medium.ttf", 1.0)


def made(key, facts, system=METRIC):
    f = family(key)
    return f.build(PartInputs(usual_subject(f.assembly), Workshop(), facts, measured=MEASURED, system=system))


def at_random(key, rng):
    """A part of a family with sizes drawn about its own: what its build refuses is drawn again."""
    f = family(key)
    inputs = PartInputs(usual_subject(f.assembly), Workshop(), {}, measured=MEASURED)
    for _ in range(60):
        facts = {}
        for one in f.fields(inputs):
            if one.choices:
                facts[one.key] = rng.choice(list(one.choices))
            elif one.is_list:
                facts[one.key] = random_list(rng)
            elif not one.is_readings and rng.random() < 0.6 and float(one.default) > 0:
                value = float(one.default) * rng.uniform(0.6, 1.7)
                facts[one.key] = min(one.high_mm, max(one.low_mm, value))
        try:
            return f.build(PartInputs(usual_subject(f.assembly), Workshop(), facts, measured=MEASURED))
        except TrebbError:
            continue
    return None


def meets(page):
    """Words that meet others, or leave the frame: of a laid out page."""
    frame = Box(MARGIN, MARGIN, WIDTH - MARGIN, HEIGHT - MARGIN)
    texts = [(t.words, page_box(t)) for t in page.texts]
    texts += [(d.words, page.box_at(d.words, d.text_at)) for d in page.dims]
    found = [f"{a[0]} / {b[0]}" for i, a in enumerate(texts) for b in texts[i + 1 :] if a[1].meets(b[1])]
    out = [
        words for words, box in texts
        if box.left < frame.left or box.right > frame.right or box.low < frame.low or box.high > frame.high
    ]  # fmt: skip
    return found, out


def page_box(text):
    half = text_width(text.words, text.high) / 2
    if text.is_middle:
        x, y = text.at
        return Box(x - half, y - 0.5 * text.high, x + half, y + 0.5 * text.high)
    return Box(text.at[0], text.at[1], text.at[0] + 2 * half, text.at[1] + text.high)


def families():
    found = []
    for f in all_families():
        try:
            made(f.key, {})
        except InputError:
            continue
        except TrebbError:
            continue
        found.append(f.key)
    return found


FAMILIES = families()


def test_every_family_but_those_that_wait_for_a_reading_is_drawn():
    waiting = {f.key for f in all_families()} - set(FAMILIES)
    assert waiting <= {"spacer", "gib", "gib_shim", "gib_liner"}


@pytest.mark.parametrize("key", FAMILIES)
def test_no_word_meets_another_or_leaves_the_frame(key, request):
    rng = random.Random(key)
    for turn in range(200 if request.config.getoption("--sweep") else 60):
        part = at_random(key, rng)
        if part is None:
            continue
        system = INCH if turn % 2 else METRIC
        page, scale = laid_out(part, system, Title("Engine lathe", "Shed", "2026-11-26"))
        together, out = meets(page)
        assert not together, (turn, together)
        assert not out, (turn, out)
        assert not page.overflows, turn
        unlike = unlike_the_list(part, page, Place(page, scale, system))
        assert not unlike, (turn, unlike)


def said_on(page):
    """Every word of a page in one text, what was broken over lines put together again."""
    return " ".join([t.words for t in page.texts] + [d.words for d in page.dims])


def unlike_the_list(part, page, place):
    """Limits that stand in the list alone or on the sheet alone; what is not right and not printed."""
    said = said_on(page)
    on_sheet = set(re.findall(r"\d*\.\d+ – \d*\.\d+", said))
    listed = {place.limits(row.value) for row in part.rows if isinstance(row.value, Band)}
    wrong = [
        c.sentence for c in part.checks if not c.is_ok and re.split("[,:.]", c.sentence)[0][:24] not in said
    ]
    return [*(f"sheet alone: {one}" for one in on_sheet - listed), *(
        f"list alone: {one}" for one in listed if one not in said
    ), *wrong]  # fmt: skip


def test_a_size_that_is_limited_in_the_list_is_not_under_the_general_tolerance_on_the_sheet():
    part = made("jaw_plate", {"thick": 12.0})
    page, scale = laid_out(part, METRIC, Title())
    assert "11.990 – 12.010" in [d.words for d in page.dims]
    assert unlike_the_list(part, page, Place(page, scale, METRIC)) == []


def test_what_is_drawn_with_another_limit_than_is_listed_is_found():
    part = made("jaw_plate", {"thick": 12.0})
    page, scale = laid_out(part, METRIC, Title())
    other = replace(part, rows=tuple(
        replace(row, value=Band(1.0, 1.1)) if row.key == "thick" else row for row in part.rows
    ))  # fmt: skip
    found = unlike_the_list(other, page, Place(page, scale, METRIC))
    assert found == ["sheet alone: 11.990 – 12.010", "list alone: 1.000 – 1.100"]


@pytest.mark.parametrize(
    ("key", "facts", "words"),
    [
        ("locking_collar", {"major": 40.0, "pitch": 1.5}, "M40 × 1.5 6H, bored Ø"),
        ("locking_collar", {"hole_depth": 6.0}, "6 deep"),
        ("screw", {"end_thread": "m10"}, "M10"),
        ("index_plate", {"circle": 90.0}, "on Ø90"),
        ("jaw_plate", {"vee": 12.0}, "vee of 90°"),
        ("screw", {}, "ASME B1.5, class 2G"),
        ("screw", {}, "wires of"),
        ("screw", {}, "from the left end"),
    ],
)
def test_a_turner_who_has_only_the_paper_is_told(key, facts, words):
    page, _ = laid_out(made(key, facts), METRIC, Title())
    assert words in said_on(page)


def test_the_thread_drawn_is_the_thread_listed_and_cut():
    part = made("screw", {}, INCH)
    page, scale = laid_out(part, INCH, Title())
    place = Place(page, scale, INCH)
    for key, words in (("depth", "depth"), ("tip_flat", "tip flat")):
        assert f"{words} {place.size(part.size_mm(key))}" in [t.words for t in page.texts]


def test_words_are_never_wider_than_they_are_counted(face):
    for words in (
        "Ø12.000 – 12.014", "Ø.5620 – .5625", "3/8-16 UNC", "keyway 3.970 – 3.994", "MWMW mwmw ØØ",
        "From bar 14 mm × 186 mm, and one spare blank.", "4 × Ø.197 on Ø2.854", "1, and one spare",
    ):  # fmt: skip
        assert face.text_width(words) <= text_width(words, 1.0), words


def shaft_of(steps):
    sections = tuple(
        Section(
            f"step {i}", "plain", 8.0 + 3 * i, 12.0 + 2 * (i % 5), Band(11.98 + 2 * (i % 5), 12 + 2 * (i % 5))
        )
        for i in range(steps)
    )
    return Part("shaft", "Shaft", "steel", "bar", sections, None, (), (), ("A note.",))


@pytest.mark.parametrize("system", [METRIC, INCH])
def test_twelve_steps_stay_readable(system):
    page, scale = laid_out(shaft_of(12), system, Title())
    assert not page.overflows
    assert scale >= 0.5
    together, out = meets(page)
    assert not together
    assert not out
    assert sum(d.words.startswith("Ø") for d in page.dims) == 12
    assert sum(not d.upright for d in page.dims) == 12


@pytest.mark.parametrize("system", [METRIC, INCH])
def test_the_document_is_as_large_as_the_part_and_its_letters_are_of_one_height(system, face):
    part = shaft_of(5)
    _, scale = laid_out(part, system, Title())
    doc = drawing_of(part, system)
    unit = 25.4 if system is INCH else 1.0
    measured = sorted(d.get_measurement() * unit for d in doc.modelspace().query("DIMENSION"))
    assert max(measured) == pytest.approx(part.length_mm)
    assert min(measured) == pytest.approx(
        min([s.length_mm for s in part.sections[:1]] + [s.diameter_mm for s in part.sections])
    )
    high = {round(t.dxf.height * unit * scale, 3) for t in doc.modelspace().query("TEXT")}
    assert high <= {3.5, 2.8, 1.9}
    sheet = doc.header["$LIMMAX"]
    assert sheet[0] * unit * scale == pytest.approx(WIDTH)
    assert sheet[1] * unit * scale == pytest.approx(HEIGHT)
    assert doc.dimstyles.get("TREBB").dxf.dimtxt * unit * scale == pytest.approx(TEXT)


def test_the_title_block_says_what_a_shop_asks_for():
    page, _ = laid_out(shaft_of(3), INCH, Title("Engine lathe", "Shed 12", "2026-11-26", projection="first"))
    words = {t.words for t in page.texts}
    assert {"Engine lathe", "Shed 12", "inches", GENERAL[INCH], "first angle; 2026-11-26; 1 of 1"} <= words


def test_a_bore_is_cut_and_a_keyway_has_its_section():
    page, _ = laid_out(made("bush", {}), METRIC, Title())
    assert page.hatches
    page, _ = laid_out(made("stepped_shaft", {"hold": "key"}), METRIC, Title())
    assert any(t.words.startswith("A–A") for t in page.texts)
    page, _ = laid_out(made("stepped_shaft", {"hold": "spline"}), METRIC, Title())
    assert any("6 splines" in t.words for t in page.texts)


RIM, BORE = Band(20.0, 20.02), Band(12.0, 12.018)


def ring(size=RIM, length=8.0, bore=BORE):
    outer = Section("rim", "plain", length, 20.0, size)
    return Part(
        "ring", "Ring", "steel", "bar", (outer,), Section("bore", "plain", length, 12.0, bore), (), (), ()
    )


def test_fitted_diameters_run_true_to_the_bore_within_half_of_the_narrowest_fit():
    (control,) = controls_of(ring(), METRIC)
    assert (control.kind, control.datum) == ("runout", "bore")
    assert control.within_mm == pytest.approx(0.005)  # half of 0.018 is 0.009: the step below
    (control,) = controls_of(ring(bore=Band(12.0, 12.05), size=Band(20.0, 20.06)), METRIC)
    assert control.within_mm == pytest.approx(0.025)


def test_a_thin_ring_stands_square_and_what_is_not_fitted_has_no_control():
    (control,) = controls_of(ring(size=None), METRIC)
    assert (control.kind, control.what) == ("square", "both faces")
    assert controls_of(ring(size=None, length=40), METRIC) == ()
    assert controls_of(ring(size=None, bore=None), METRIC) == ()


@pytest.mark.parametrize(("system", "figure"), [(METRIC, "0.005"), (INCH, ".0002")])
def test_the_control_frame_stands_on_the_sheet(system, figure):
    page, _ = laid_out(ring(), system, Title())
    words = [t.words for t in page.texts]
    assert figure in words
    assert any("D: bore" in w for w in words)


@pytest.mark.parametrize(
    "words",
    [
        "Lathe 2",
        "Lathe 2, Ostrel 15-50, 1958: Cross-slide screw",
        "Wend Hollow Lock Depot, upper yard",
        "A" * 40,
    ],
)
def test_a_long_name_stands_whole_in_its_cell_of_the_title_block(words):
    wide = 50.0
    lines = _in_cell(words, wide)
    assert "".join(line for line, _, _ in lines).replace(" ", "") == words.replace(" ", "")
    for line, up, high in lines:
        assert text_width(line, high) <= wide
        assert 0 < up < up + high < TITLE_HIGH / 2 - 3.2, "below the cell's own heading"
    feet = [up for _, up, _ in lines]
    assert len(lines) == 1 or feet[0] - feet[1] > lines[1][2], "one line over the other"


def test_only_what_no_two_lines_hold_is_cut():
    (first, _, high), (rest, _, _) = _in_cell("word " * 60, 40.0)
    assert rest.endswith("…")
    assert max(text_width(first, high), text_width(rest, high)) <= 40.0
