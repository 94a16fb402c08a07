"""Practice jobs: played by the program, scored, opened; set pieces; what is told and what is not."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from msgspec.structs import replace

from tests.players import beginner, follow_advice
from trebb.core.errors import InputError
from trebb.core.practice.ground_records import NOTHING
from trebb.core.practice.piece import Offer, drawn, piece_from, read_code
from trebb.core.survey import set_up
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.practice_piece import piece_of, read_piece, set_pieces
from trebb.logbook.demo.jobs import simulated_reading
from trebb.logbook.log.entries import PracticeMarked, ReadingStruck, ReadingTaken, RemedyChosen
from trebb.logbook.log.fold import Job
from trebb.logbook.memory.shop import read_shop
from trebb.logbook.practice.begun import as_entries, beginning, doing, truth_of, used
from trebb.logbook.practice.begun import begin as begin_job
from trebb.logbook.practice.opened import look_for_best, opened, opening, score_of
from trebb.logbook.practice.record import by_trap, keep_score, next_piece, scores
from trebb.logbook.practice.state import asking, is_asked, is_silent, standing_at
from trebb.logbook.practice.told import expert_words, lied_readings, trust_words
from trebb.logbook.practice.trial import BestOrder, Trial, _Lots, best_order

QUICK = ("01-not-home", "06-tap-by-pitch", "08-nut-alone", "10-hard-bore")


class Played:
    """A practice job in a file, played by hand."""

    def __init__(self, path, piece) -> None:
        self.file = begin_job(path, piece)
        self.job = Job(self.file.entries())
        self.cases = Cases(self.job)
        self.piece = piece
        self.case = self.cases.of(piece.ground.assembly)

    def record(self, *bodies) -> None:
        for entry in self.file.append(list(bodies)):
            self.job.apply(entry)

    def read(self, key: str) -> None:
        s = set_up(key)
        for _ in range(max(1, s.wanted)):
            for place in self.case.places(key):
                self.record(simulated_reading(self.case, key, place.key, "before"))

    def did(self, preparation: str) -> None:
        self.record(*doing(self.case, self.piece, preparation))

    def say(self, cause: str, sure: float, remedy: str = "leave"):
        self.record(RemedyChosen(self.case.assembly_key, remedy, ""))
        self.record(PracticeMarked(what="verdict", of=cause, share=sure))
        self.record(opening(BestOrder(30.0, ("x",), is_found=True)))
        return opened(self.file.entries())


@pytest.fixture
def gib(tmp_path):
    return Played(tmp_path / "p.trebb", set_pieces()["01-not-home"])


def test_there_are_sixteen_set_pieces_each_with_a_trap_of_its_own_and_all_can_be_begun(tmp_path):
    pieces = set_pieces()
    assert len(pieces) == 16
    assert len({p.teaching.trap for p in pieces.values()}) == 16
    for key, piece in pieces.items():
        assert all((piece.story, piece.teaching.looks, piece.teaching.tells, piece.teaching.costs))
        with begin_job(tmp_path / f"{key}.trebb", piece) as job_file:
            assert piece_of(Job(job_file.entries())) is not None


@pytest.mark.parametrize("key", QUICK)
def test_following_the_advice_scores_well_on_a_set_piece(key):
    piece = set_pieces()[key]
    trial = follow_advice(piece)
    truth = truth_of(trial.case, piece)
    score = score_of(trial.case, piece, truth, BestOrder(used(trial.case).minutes, (), is_found=False))
    assert score.total >= 90, score


def test_advice_beats_a_beginner_on_drawn_machines_of_every_level():
    """A short run of `make calibrate`, minutes left out."""
    rng = np.random.default_rng(1)
    followed, random = [], []
    for level in (1, 2, 3, 4):
        for number in (0, 1, 4, 5, 9):  # two screws, two slides, a bore
            piece = drawn(level, number)
            trial = follow_advice(piece)
            truth = truth_of(trial.case, piece)
            best = BestOrder(used(trial.case).minutes, (), is_found=False)
            followed.append(score_of(trial.case, piece, truth, best).total)
            random.append(score_of(beginner(piece, rng).case, piece, truth, best).total)
    assert np.mean(followed) >= 90
    assert np.mean(random) < np.mean(followed) - 15


def test_the_best_order_is_the_cheapest_set_after_which_the_advice_is_right():
    piece = drawn(1, 0)  # a cross-slide screw with nothing wrong: the lash at the handwheel says it
    trial = Trial(piece)
    best = best_order(piece, truth_of(trial.case, piece))
    assert best.is_found
    assert best.titles == ("Lash at the handwheel",)
    assert best.minutes == pytest.approx(2 + 5 * 1.5)
    assert best.is_proven
    assert not best.is_own


def test_no_cheaper_set_does_than_the_best_order_and_where_few_were_tried_it_is_not_proven():
    piece = drawn(1, 4)
    truth = truth_of(Trial(piece).case, piece)
    best = best_order(piece, truth)
    lots = _Lots(piece, truth)
    cheaper = [
        some
        for many in range(1, len(lots.every) + 1)
        for some in combinations(lots.every, many)
        if lots.minutes(some) < best.minutes - 1e-9
    ]
    assert best.is_proven
    assert cheaper
    assert not any(lots.are_enough(some) for some in cheaper)
    few = best_order(piece, truth, most_tried=0)
    assert not few.is_proven
    assert few.minutes >= best.minutes


def test_what_was_used_counts_setting_up_once_and_each_preparation(gib):
    gib.did("push_home")
    gib.read("feelers")
    spent = used(gib.case)
    # Home 2 min, feelers set up 6 min, two places of a minute each.
    assert spent.minutes == pytest.approx(2 + 6 + 2)
    assert spent.readings == 4


def test_a_gib_read_before_it_is_home_reads_open_and_after_it_does_not(gib, tmp_path):
    gib.read("feelers")
    away = [r.taken.value for r in gib.job.all_readings()]
    other = Played(tmp_path / "q.trebb", gib.piece)
    other.did("push_home")
    other.read("feelers")
    home = [r.taken.value for r in other.job.all_readings()]
    assert np.mean(away) - np.mean(home) == pytest.approx(1.3 * 3.5 / gib.case.subject.ratio, abs=0.02)


def test_nothing_is_told_until_it_is_asked_for_and_only_until_the_next_reading(gib):
    assert is_silent(gib.job)
    assert not is_asked(gib.job, "next")
    gib.record(asking(gib.job, "next"))
    assert is_asked(gib.job, "next")
    gib.read("feelers")
    assert not is_asked(gib.job, "next")


def test_trust_names_the_lie_until_it_is_put_right_and_read_again(gib):
    assert "nothing stands" in trust_words(gib.case, gib.piece, set_up("feelers")).lower()
    gib.read("feelers")
    words = trust_words(gib.case, gib.piece, set_up("feelers"))
    assert words.startswith("No: 4 of 4")
    gib.did("push_home")
    assert len(lied_readings(gib.case, gib.piece)) == 4
    gib.record(*(ReadingStruck(reading=r.id, reason="not home") for r in gib.job.all_readings()))
    gib.read("feelers")
    assert trust_words(gib.case, gib.piece, set_up("feelers")).startswith("Yes")
    assert expert_words(gib.case, UnitSystem.METRIC)


def test_opened_it_says_at_which_reading_it_went_wrong_and_why(gib):
    gib.read("feelers")
    gib.did("push_home")
    gib.read("rock")
    found = gib.say("gib", 0.9)
    assert found.truth.chief == NOTHING
    assert found.wrong_at in (1, 2)  # from the first reading that puts it beyond its limit
    assert "rear screw" in found.wrong_why
    assert found.score.verdict < -20
    assert found.score.total < 40
    assert not is_silent(Job(gib.file.entries()))


def test_opened_again_it_says_the_same_and_the_best_order_is_kept(gib):
    gib.did("push_home")
    gib.read("rock")
    first = gib.say(NOTHING, 0.8)
    assert opened(gib.file.entries()) == first
    assert first.best == BestOrder(30.0, ("x",), is_found=True)
    assert look_for_best(gib.file.entries()).minutes > 0


def test_a_machine_is_not_opened_without_a_verdict_and_an_own_job_not_at_all(gib, tmp_path):
    with pytest.raises(InputError, match="no verdict"):
        opened(gib.file.entries())
    with pytest.raises(InputError, match="no practice"):
        opened([])


def test_a_hard_bore_ruins_the_reamer_of_who_tried_no_file(tmp_path):
    bore = Played(tmp_path / "b.trebb", set_pieces()["10-hard-bore"])
    bore.read("bore_gauge")
    assert bore.say("wear", 0.9, "bush").score.damage
    tried = Played(tmp_path / "c.trebb", set_pieces()["10-hard-bore"])
    tried.did("try_file")
    assert tried.case.subject.file == "skates"
    tried.read("bore_gauge")
    found = tried.say("wear", 0.9)
    assert not found.score.damage
    assert found.truth.least == "leave"


def test_the_wrong_tap_taken_spoils_and_a_right_one_left_costs(tmp_path):
    tap = Played(tmp_path / "t.trebb", set_pieces()["06-tap-by-pitch"])
    tap.record(PracticeMarked(what="offer", of="taken"))
    assert "wrong diameter" in tap.say("nut", 0.9, "made_nut").score.damage[0]
    good = piece_from({"ground": "cross_screw", "causes": {"nut": 2.4},
                       "offer": {"words": "A tap that fits.", "money": 200}})  # fmt: skip
    left = Played(tmp_path / "u.trebb", good)
    left.record(PracticeMarked(what="offer", of="left"))
    assert left.say("nut", 0.9, "made_nut").score.money < 20
    assert good.offer != Offer()


def test_over_the_budget_costs(tmp_path):
    piece = piece_from({"ground": "bore", "causes": {"wear": 2.0}, "budget": {"minutes": 1, "money": 5}})
    bore = Played(tmp_path / "b.trebb", piece)
    bore.read("bore_gauge")
    assert len(bore.say("wear", 0.9, "bush").score.over) == 2


def test_scores_are_kept_by_trap_and_the_next_machine_is_of_the_weakest(gib):
    gib.did("push_home")
    gib.read("rock")
    assert keep_score(gib.say("gib", 0.99), "here") == ""
    entries, trouble = read_shop()
    assert trouble == ""
    played = scores(entries)
    assert list(by_trap(played)) == ["Gib not home"]
    again = [replace(e, id=e.id + 100) for e in entries]  # what was opened once is known: it counts once
    assert scores([*entries, *again]) == played
    assert next_piece(3, 7, played).trap == "Gib not home"
    assert next_piece(3, 7, []).code == drawn(3, 7).code


def test_a_piece_that_a_foreman_wrote_is_played(tmp_path):
    path = tmp_path / "mine.toml"
    path.write_text('format = 1\nground = "knee"\ntitle = "Mine"\n[causes]\nways = 2.5\n', encoding="utf-8")
    mine = Played(tmp_path / "m.trebb", read_piece(path))
    mine.read("rock")
    assert mine.say("ways", 0.9, "scrape").score.total > 80


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ('ground = "knee"\n[causes]\nnut = 2\n', "nut"),
        ("ground = knee", "TOML"),
        ('format = 2\nground = "knee"\n', "format"),
        ('ground = "knee"\n[budget]\nminute = 60\n', "line 3: budget: “minute”"),
        ('ground = "knee"\n[teaching]\ntrapp = "x"\n', "line 3: teaching: “trapp”"),
        ('ground = "cross_screw"\n[facts]\npitch_mm = -3\n', "line 3: fact “pitch_mm”"),
        ('ground = "knee"\n[facts]\npitch = 3\n', "pitch"),
        ('ground = "knee"\n[offer]\nwords = "x"\nspoils = "false"\n', "line 4: offer, spoils"),
        ('ground = "knee"\nseed = 1.5\n', "line 2: seed"),
    ],
)
def test_a_piece_file_that_will_not_do_is_named(tmp_path, text, names):
    path = tmp_path / "bad.toml"
    path.write_text(text, encoding="utf-8")
    with pytest.raises(InputError, match=names):
        read_piece(path)


def test_a_piece_file_that_is_none_is_named(tmp_path):
    with pytest.raises(InputError, match="No such file"):
        read_piece(tmp_path / "none.toml")
    path = tmp_path / "picture.toml"
    path.write_bytes(b"\xff\xfe\x00\x01")
    with pytest.raises(InputError, match="no text"):
        read_piece(path)
    path.write_text("#" * 200_000)
    with pytest.raises(InputError, match="is the most"):
        read_piece(path)


def test_a_repair_that_leaves_hardly_less_than_leaving_it_is_not_advised():
    """A hard bore: honing takes an hour and moves the figure by a third of a micron."""
    case = follow_advice(set_pieces()["10-hard-bore"]).case
    assert case.advised().key == "leave"
    assert case.least_left().key == "leave"


def played(code, *lots, said="", sure=0.5):
    """A drawn machine of which some set-ups were read, its verdict given; its entries and its opening."""
    piece = drawn(*read_code(code))
    trial = Trial(piece)
    entries = []

    def record(bodies):
        entries.extend(as_entries(bodies, len(entries) + 1))

    for gesture in beginning(piece):
        record(gesture)
    machine, case = trial.case.practice("before"), trial.case
    for key in lots:
        s = set_up(key)
        for place in s.places(case.subject_for("before")):
            for i in range(s.wanted):
                told = {"assembly": case.assembly_key, "set_up": key, "place": place.key, "phase": "before"}
                value = machine.reading(s, place.key, i)
                record([ReadingTaken(**told, value=value, unit=s.unit, resolution_mm=s.resolution_mm)])
    record([PracticeMarked(what="verdict", of=said or truth_of(case, piece).chief, share=sure)])
    return entries, opened(entries)


def test_what_was_never_read_and_would_have_told_it_is_the_lesson():
    _, found = played("2-ABCX", "rock", said="gib", sure=0.7)
    assert found.truth.chief == "drop"
    assert "drop of the saddle" in found.lesson.never
    assert "14 min" in found.lesson.never
    assert any("by nothing that was read" in words for words in found.lesson.on_nothing)
    assert all(step.title.startswith("Rock at") for step in found.lesson.own)
    assert sum(step.minutes for step in found.lesson.own) == pytest.approx(found.used.minutes)


def test_a_guess_earns_nothing_of_minutes_and_money_and_what_was_told_all():
    _, guessed = played("2-ABCX")
    assert guessed.score.earned == 0
    assert guessed.score.minutes == guessed.score.money == 0
    _, told = played("2-ABCX", "rock", "drop", "feelers")
    assert told.score.earned == 1


def test_minutes_count_from_the_setting_up_on_whether_it_is_taken_or_not():
    piece = drawn(*read_code("2-ABCX"))
    trial = Trial(piece)
    assert used(trial.case).minutes == 0
    s = set_up("rock")
    places = [p.key for p in s.places(trial.case.subject)]
    trial.record([standing_at("saddle", "rock", places[0])])
    once = used(trial.case)
    lot = next(lot for lot in s.all_lots(trial.case.subject) if places[0] in lot.places)
    assert once.minutes == pytest.approx(s.setting_of(lot) + s.minutes / s.wanted)
    assert once.readings == 0
    trial.record([standing_at("saddle", "rock", places[1])])
    assert used(trial.case).minutes == pytest.approx(once.minutes + s.minutes / s.wanted)
    trial.read(trial.case, s, s.all_lots(trial.case.subject)[0])
    whole = used(trial.case).minutes
    trial.record([standing_at("saddle", "rock", places[0])])
    assert used(trial.case).minutes == whole, "what is read was seen already"


@pytest.mark.parametrize("what", ["did", "hint", "stood", "verdict", "opened"])
def test_what_was_seen_asked_or_said_cannot_be_taken_back(what):
    trial = Trial(drawn(*read_code("1-AAHU")))
    before = trial.job.undoable
    trial.record([PracticeMarked(what=what, of="x.y", text="z")])
    assert trial.job.undoable == before
