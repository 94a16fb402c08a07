"""Papers of the whole job: the machine's card, the oil card, the week sheet, the calendar file."""

from __future__ import annotations

import base64
import json
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, Qt

from trebb.app.papers.paper import Paper, filled, write_pdf
from trebb.app.window.session import Session
from trebb.core import clock
from trebb.core.dates import day_words
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError
from trebb.core.units import UnitSystem, show_size, show_small, show_uncertain
from trebb.logbook.cases.casework import Cases
from trebb.logbook.file.writing import write_whole
from trebb.logbook.plan.afterwards import again_list
from trebb.logbook.plan.calendar_file import calendar_bytes
from trebb.logbook.plan.job_plan import JobPlan
from trebb.logbook.plan.machine_card import card_of
from trebb.logbook.plan.oil_plan import STATES, oil_points
from trebb.logbook.plan.plan_words import day_of

PHOTO_PX, MOST_PHOTOS, WEEK_DAYS = 320, 6, 7


def _shown(told: Mapping[str, Any], key: str, system: UnitSystem) -> str:
    value = told.get(f"{key}_mm")
    return (
        "–"
        if value is None
        else show_uncertain(float(value), float(told.get(f"{key}_half_mm") or 0.0), system)
    )


def card_facts(session: Session) -> dict[str, object]:
    """Everything the card says, as text in the shop's units."""
    card, system = card_of(session.cases, clock.now()), session.system
    assemblies = []
    for a in card["assemblies"]:
        figures = [
            {
                "label": in_units(f["label"], system),
                "before": _shown(f, "before", system),
                "predicted": _shown(f, "predicted", system),
                "after": _shown(f, "after", system),
                "limit": f"{show_small(f['limit_mm'], system)}, {f['limit_source']}",
            }
            for f in a["figures"]
        ]
        readings = [
            {
                "set_up": f"{r['set_up']}, {r['place']}",
                "instrument": r["instrument"],
                "before": _shown(r, "before", system),
                "after": _shown(r, "after", system),
                "shown": "" if r["is_shown"] else "not shown",
            }
            for r in a["readings"]
        ]
        parts = []
        for p in a["parts"]:
            sizes = "; ".join(f"{what} {show_size(mm, system)}" for what, mm in p["as_made_mm"].items())
            parts.append(
                {
                    "title": in_units(p["title"], system),
                    "material": p["material"],
                    "done": "made" if p["done"] == p["of"] else f"{p['done']} of {p['of']} operations",
                    "sizes": sizes,
                }
            )
        assemblies.append({**a, "figures": figures, "readings": readings, "parts": parts})
    return {
        **card,
        "assemblies": assemblies,
        "about": ", ".join(v for k, v in card["about"].items() if k != "words"),
        "words": card["about"].get("words", ""),
        "photos": _photos(session),
        "power": "Power was locked out while it was apart." if session.job.is_power_locked else "",
    }


def _photos(session: Session) -> list[dict[str, str]]:
    """Photographs, small, as they can stand in a page."""
    found = []
    for photo in session.job.photos()[:MOST_PHOTOS]:
        picture, why = session.thumbnails.of(session.file, photo.sha256)
        if why:
            continue
        image = picture.toImage()
        small = image.scaled(
            PHOTO_PX, PHOTO_PX, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
        )
        held = QByteArray()
        buffer = QBuffer(held)
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        small.save(buffer, "JPG")  # type: ignore[call-overload]
        found.append(
            {
                "data": base64.b64encode(bytes(held.data())).decode(),
                "caption": photo.caption or photo.file_name,
            }
        )
    return found


def machine_card(session: Session) -> Paper:
    """The machine's card. Raises InputError for a machine of which nothing is known."""
    facts = card_facts(session)
    if not facts["assemblies"] and not facts["symptoms"]:
        raise InputError("a card of nothing", "grade or read something first")
    return Paper("Machine's card", [filled("machine_card.html", facts)])


def write_machine_card(session: Session, path: Path) -> int:
    """The same as PDF; returns its pages. Raises WriteError, InputError."""
    return write_pdf(machine_card(session), path)


def write_card_json(card: Mapping[str, Any], path: Path) -> None:
    """The same as JSON. Raises WriteError."""
    write_whole(path, (json.dumps(card, indent=1, ensure_ascii=False) + "\n").encode())


def oil_card(cases: Cases) -> Paper:
    """The oil plan as one page for the machine's door. Raises InputError where it is empty."""
    points = oil_points(cases)
    if not points:
        raise InputError("an oil card without a place", "add the places that are oiled first")
    started = cases.job.started
    rows = [
        {
            "label": o.label,
            "where": o.where,
            "words": o.words,
            "grease": o.grease,
            "state": STATES.get(o.state, "") if o.state in ("blocked", "") else "",
            "note": o.note,
        }
        for o in points
    ]
    facts = {"machine": started.machine if started else "", "rows": rows}
    return Paper("Oil", [filled("oil_card.html", facts)])


def write_oil_card(cases: Cases, path: Path) -> int:
    """The same as PDF; returns its pages. Raises WriteError, InputError."""
    return write_pdf(oil_card(cases), path)


def week_sheet(session: Session, plan: JobPlan) -> Paper:
    """The coming days, to hang up. Raises InputError where there is no plan."""
    if not plan.starts:
        raise InputError("a week without work", plan.trouble.rstrip(".") or "choose remedies first")
    days = []
    for d in range(WEEK_DAYS):
        begins = [
            x for x in plan.lines if not x.is_done and x.first <= d <= x.last and x.task.key in plan.starts
        ]
        work = [
            in_units(x.task.title, session.system)
            for x in begins
            if not x.task.waits and plan.evenings.hours[d]
        ]
        comes = [in_units(x.task.title, session.system) for x in begins if x.task.waits and x.last == d]
        apart = "in pieces" if d in plan.apart_days else "whole"
        days.append(
            {
                "day": day_words(plan.day(d)),
                "hours": f"{plan.evenings.hours[d]:g} h" if plan.evenings.hours[d] else "off",
                "work": work,
                "comes": comes,
                "apart": apart,
            }
        )
    started = session.job.started
    facts = {
        "machine": started.machine if started else "",
        "days": days,
        "ready": day_words(plan.ready) if plan.ready else "",
        "order": [in_units(x.task.title, session.system) for x in plan.to_order],
        "tonight": day_of(plan, 0),
    }
    return Paper("Week", [filled("week_sheet.html", facts)])


def write_week_sheet(session: Session, plan: JobPlan, path: Path) -> int:
    """The same as PDF; returns its pages. Raises WriteError, InputError."""
    return write_pdf(week_sheet(session, plan), path)


def write_calendar(session: Session, plan: JobPlan, path: Path) -> None:
    """The calendar file. Raises WriteError."""
    started = session.job.started
    name = started.machine if started else session.path.stem
    again, identity = again_list(session.cases), session.job.identity
    write_whole(path, calendar_bytes(plan, again, name, clock.now(), identity=identity))
