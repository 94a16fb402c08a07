"""What the suite goes over in part: of tests that do the same on every machine, family or size, some are in
the suite and all in the sweep (`make sweep`), so that the suite ends in minutes.
"""

from __future__ import annotations

# By test, the cases that the suite keeps: those with one of these in their name.
KEPT: dict[str, tuple[str, ...]] = {
    "test_few_readings_anywhere_are_shown_at_every_stop": (
        "lathe-spindle", "lathe-headstock", "lathe-ways", "lathe-saddle", "lathe-tailstock", "lathe-stand",
        "mill-head", "mill-column", "mill-cross_screw",
    ),
    "test_few_readings_of_a_piece_are_shown_at_every_stop": (
        "shaft-facts0", "bore-facts3", "gear-facts5", "gear-facts6", "cone-facts7", "casting-facts9", "jaws",
        "index_plate", "cutter-facts13", "train-facts15", "way-facts17", "gear-facts20",
    ),
    "test_only_the_shop_s_own_units_are_shown": ("lathe",),
    "test_a_stop_that_comes_back_is_brought_to_what_is_chosen": ("drill",),
    "test_no_word_is_cut_or_lies_on_another_in_the_smallest_window": ("lathe",),
    "test_tab_goes_round_as_the_eye_does": ("mill",),
    "test_every_ground_is_played_from_its_first_preparation_to_its_score": (
        "shaft", "bore", "tailstock", "lathe_spindle",
    ),
    "test_every_stop_holds_when_the_form_is_restated_after_measuring": ("stub Acme",),
    "test_the_wheel_over_every_field_of_every_stop_writes_nothing": ("drill",),
    "test_a_random_user_ends_no_window": ("mill",),
    "test_every_stop_stands_at_every_stage_in_both_units": ("lathe",),
    "test_no_piece_of_a_stop_is_a_window_of_its_own_for_a_moment": ("drill",),
    "test_whatever_is_admitted_of_any_part_leaves_it_makeable": ("mill",),
    "test_every_measured_part_has_such_a_page": ("drill",),
    "test_everything_that_can_have_the_focus_has_a_name": ("lathe",),
    "test_a_solver_that_fails_is_said_once_and_gone_on_without": ("command0", "command4"),
    "test_no_word_is_cut_on_any_page_of_a_stop": ("size0",),
    "test_no_stop_shows_a_decimal_point_where_the_language_has_a_comma": ("mill",),
    "test_in_shop_mode_everything_that_is_pressed_is_large_enough": ("drill",),
    "test_a_click_on_a_drawn_part_finds_that_part": ("drill", "own"),
}  # fmt: skip


def is_kept(name: str) -> bool:
    """Whether the suite runs a test of that name, its case in brackets."""
    test, _, case = name.partition("[")
    return test not in KEPT or any(one in case for one in KEPT[test])
