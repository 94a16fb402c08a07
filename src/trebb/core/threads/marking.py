"""Reading what is stamped on a tap, a nut or a bar."""

from __future__ import annotations

import re

from trebb.core.errors import InputError
from trebb.core.threads.forms import Form, Hand, ThreadSpec, numbered_in
from trebb.core.units import INCH_MM, UnitSystem, parse_length

EXAMPLES = "write it as stamped: 3/4-8 Acme LH, Tr 20 × 4 LH, M12 × 1.75, 5/8-11 BSW, 20 mm × 8 tpi Acme"
_FORMS: tuple[tuple[str, Form], ...] = (
    (r"\bstub(\s+acme)?\b", Form.ACME_STUB),
    (r"acme", Form.ACME),
    (r"\btr(ap\w*)?\b|^tr(?=\d)", Form.TRAPEZOIDAL),
    (r"\bsq(uare)?\b", Form.SQUARE),
    (r"\b(bsw|bsf|whit|whitworth)\b", Form.WHITWORTH),
    (r"\bun[cfrs]?\b|\b8un\b|unified", Form.UNIFIED),
    (r"^m(?=\s*\d)|metric", Form.METRIC),
)
_LEFT = r"(?i)\b(lh|left([- ]?hand)?|l)\b"
_RIGHT = r"(?i)\b(rh|right([- ]?hand)?)\b"
_STARTS = r"(?i)(\d+)\s*starts?"
_PITCH_IN_BRACKETS = r"(?i)\(?\s*P\s*(\d+(?:\.\d+)?)\s*\)?"


def parse_marking(text: str, usual: ThreadSpec | None = None) -> ThreadSpec:
    """A thread from its marking.

    Parameters
    ----------
    usual : the thread it is meant for; form and, where the marking gives no
        pitch, the standard's coarse pitch are taken from it or its series.

    Raises
    ------
    InputError : what cannot be read, with examples of what can.
    """
    left = text.strip().replace("×", "x").replace("*", "x").replace("”", '"').replace("−", "-")
    hand = Hand.LEFT if re.search(_LEFT, left) else Hand.RIGHT
    left = re.sub(_RIGHT, " ", re.sub(_LEFT, " ", left))
    starts = 1
    if found := re.search(_STARTS, left):
        starts = int(found[1])
        left = re.sub(_STARTS, " ", left)
    form = None
    for pattern, candidate in _FORMS:
        if re.search(pattern, left.strip(), re.IGNORECASE):
            form = candidate
            left = re.sub(pattern, " ", left.strip(), flags=re.IGNORECASE)
            break
    pitch_of_starts = None
    if found := re.search(_PITCH_IN_BRACKETS, left):
        pitch_of_starts = float(found[1])
        left = re.sub(_PITCH_IN_BRACKETS, " ", left)
    left = re.sub(r"\b[234]G\b|\btap\b|\bnut\b|\bbar\b", " ", left, flags=re.IGNORECASE).strip(" ,;")
    major, pitch = _sizes(left, text, form, usual)
    if form is None:
        if usual is None:
            raise InputError(f"“{text.strip()}”", f"the form is missing; {EXAMPLES}")
        form = usual.form
    if pitch_of_starts is not None and pitch_of_starts > 0:  # Tr 20 × 8 (P4): the second figure is the lead
        starts, pitch = max(1, round(pitch / pitch_of_starts)), pitch_of_starts
    return ThreadSpec(form, major, pitch, starts, hand)


def _sizes(left: str, text: str, form: Form | None, usual: ThreadSpec | None) -> tuple[float, float]:
    """Major diameter and pitch (or lead), mm."""
    parts = re.split(r"\s*x\s*", left.strip(), maxsplit=1) if "x" in left else None
    if parts is None:
        # 3/4-8, 1-1/8-5, 3/4 8: the last figure after a dash or space is turns an inch.
        if found := re.fullmatch(r"(.+?)[\s-]+(\d+(?:\.\d+)?)\s*(tpi)?", left.strip(), re.IGNORECASE):
            parts = [found[1], f"{found[2]} tpi"]
        else:
            parts = [left.strip(), ""]
    if (number := _numbered(parts)) is not None and form in (None, Form.UNIFIED):
        return number
    metric = form in (Form.METRIC, Form.TRAPEZOIDAL) or (
        form in (None, Form.SQUARE) and "x" in left and "in" not in left and '"' not in left
    )
    try:
        major = parse_length(
            parts[0].strip(), UnitSystem.METRIC if metric and "/" not in parts[0] else UnitSystem.INCH
        )
        if not parts[1].strip():
            pitch = _coarse(form or (usual.form if usual else None), major, text)
        elif found := re.fullmatch(
            r"(\d+(?:\.\d+)?)\s*(tpi|per inch|/\s*in)", parts[1].strip(), re.IGNORECASE
        ):
            pitch = INCH_MM / float(found[1])
        else:
            pitch = parse_length(parts[1].strip(), UnitSystem.METRIC)
    except (InputError, ZeroDivisionError):
        raise InputError(f"“{text.strip()}”", EXAMPLES) from None
    return major, pitch


# Numbered sizes are finer than any whole inch of their number is cut: a 4-4 is of four inches, a 4-40 is not.
_FINEST_WHOLE_IN_TPI = 20.0


def _numbered(parts: list[str]) -> tuple[float, float] | None:
    """Major diameter and pitch, mm, of a numbered thread such as 10-24 or No. 4-40; None where it is none."""
    found = re.fullmatch(r"(?i)(?:no\.?|#)?\s*(\d{1,2})", parts[0].strip())
    tpi = re.fullmatch(r"(?i)(\d+)\s*(?:tpi)?", parts[1].strip())
    if not found or not tpi or int(found[1]) > 14 or float(tpi[1]) <= _FINEST_WHOLE_IN_TPI:
        return None
    return numbered_in(int(found[1])) * INCH_MM, INCH_MM / float(tpi[1])


def _coarse(form: Form | None, major: float, text: str) -> float:
    """The first pitch its series lists for a diameter."""
    from trebb.core.threads.series import SERIES

    for s in SERIES:
        if s.form is form:
            for dia, pitch in s.pairs:
                if abs(dia - major) < 0.01:
                    return pitch
    raise InputError(f"“{text.strip()}”", "the pitch is missing, and no series has one for this diameter")
