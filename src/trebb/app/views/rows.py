"""Places as rows: the view of most set-ups."""

from __future__ import annotations

import statistics

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QWidget

from trebb.app.look.widgets import column, row, scrolled
from trebb.app.survey.places_view import MOST_FIGURES, Figure, PlaceRow, PlacesView
from trebb.app.views.base import ReadingView, Shown
from trebb.core.dual_units import in_units
from trebb.core.survey import Place, spread
from trebb.core.survey.admitting import width_typed
from trebb.core.survey.shown import reading_text
from trebb.core.words import small
from trebb.logbook.log.entries import ReadingTaken

LEAST = 120  # more rows than go into so much may scroll


LONGEST_SAID = 16  # letters of a reading said to lie between two, shown as it was said


def _figure_text(shown: Shown, taken: ReadingTaken) -> str:
    """A reading as shown: as it was typed, where it was said to lie between two."""
    s, session = shown.set_up, shown.session
    subject = session.case.read_as(shown.phase)
    if len(taken.typed) <= LONGEST_SAID and width_typed(s, subject, taken.typed, session.system):
        return taken.typed
    return reading_text(taken.value, s, session.system)


class RowsView(ReadingView):
    """One row a place, with its readings, mean and spread."""

    def __init__(self) -> None:
        super().__init__()
        box = column()
        self.setLayout(box)
        self.places = PlacesView()
        self.places.chosen.connect(self.chosen)
        self.places.figure_chosen.connect(self.figure_chosen)
        self._area = scrolled(self.places)
        self._at = ""
        box.addWidget(self._area)

    def show_readings(self, shown: Shown) -> None:
        places = shown.set_up.places(shown.session.case.subject)
        standing = shown.session.job.standing(shown.session.assembly, shown.set_up.key, shown.phase)
        longest = max((abs(statistics.fmean(p.values)) for p in standing), default=0.0)
        several = len({p.group for p in places}) > 1
        self.places.show_rows(
            tuple(self._row(shown, p, longest, several) for p in places),
            shown.place.key if shown.place else "",
        )
        self._area.setMinimumHeight(min(self.places.minimumHeight(), LEAST))
        if self._at != self.places.current():
            self._at = self.places.current()
            QTimer.singleShot(0, self, self._look_there)  # once the rows have their height

    def _look_there(self) -> None:
        spot = self.places.spot_of_current()
        if spot is not None:
            self._area.ensureVisible(0, round(spot.center().y()), 0, round(2.5 * spot.height()))

    def _row(self, shown: Shown, p: Place, longest: float, several: bool) -> PlaceRow:
        s, system = shown.set_up, shown.session.system
        readings = shown.session.job.readings(shown.session.assembly, s.key, shown.phase, p.key)
        slipped = {
            name
            for odd in shown.session.case.odd_at(s.key, shown.phase)
            if odd.place == p.key and odd.slip and odd.is_sure
            for name in odd.readings
        }  # what slipped does not count, and is shown beside what does
        values = [r.taken.value for r in readings if r.struck is None and r.id not in slipped]
        mean = statistics.fmean(values) if values else None
        return PlaceRow(
            p.key,
            in_units(f"{p.group}, {small(p.label)}" if p.group and several else p.label, system),
            in_units(p.note, system),
            tuple(Figure(r.id, _figure_text(shown, r.taken), r.struck) for r in readings[-MOST_FIGURES:]),
            reading_text(mean, s, system) if mean is not None else "",
            mean / longest if mean is not None and longest > 0 and not s.is_size else 0.0,
            f"± {reading_text(spread(values) / 2, s, system).lstrip('+')}"
            if len(values) > 1 and not s.is_size
            else "",
            len(values) >= s.wanted,
        )


class WithRows(ReadingView):
    """A view of rows beside a picture of its own."""

    def __init__(self) -> None:
        super().__init__()
        self.rows = RowsView()
        self.rows.chosen.connect(self.chosen)
        self.rows.figure_chosen.connect(self.figure_chosen)

    def beside(self, picture: QWidget, *, rows: int = 0, picture_share: int = 1, below: bool = False) -> None:
        """Lay out: the rows take so many shares of the room (0: what they are wide), the picture the rest."""
        box = column(spacing=6) if below else row(spacing=12)
        self.setLayout(box)
        box.addWidget(self.rows, rows)
        box.addWidget(picture, picture_share)
