"""Colours as roles, type, and the style sheet. No colour literal stands anywhere else."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from msgspec import Struct
from msgspec.structs import asdict
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QFontMetricsF, QPalette
from PySide6.QtWidgets import QApplication, QWidget

from trebb.core.machine import State

FONT_FOLDER = Path(__file__).parents[1] / "fonts"
REGULAR, MEDIUM, SEMIBOLD = (
    "Barlow Semi Condensed",
    "Barlow Semi Condensed Medium",
    "Barlow Semi Condensed SemiBold",
)
SMALL, BODY, LARGE, TITLE, HUGE = 13, 15, 17, 21, 54


class Roles(Struct, frozen=True):
    """What each colour is for."""

    ground: str
    sheet: str
    line: str
    ink: str
    soft: str
    blue: str
    blue_wash: str
    on_blue: str
    within: str
    within_wash: str
    near: str
    near_wash: str
    beyond: str
    beyond_wash: str
    rail: str
    rail_text: str
    rail_soft: str
    brass: str
    brass_text: str
    metal: str


LIGHT = Roles(
    ground="#E9EAE4",
    sheet="#F8F8F4",
    line="#C9CCC3",
    ink="#1D2629",
    soft="#566162",
    blue="#26418F",
    blue_wash="#DCE2F1",
    on_blue="#FFFFFF",
    within="#2F6B4F",
    within_wash="#DCEBE1",
    near="#805800",
    near_wash="#F3E8CC",
    beyond="#8F0F14",
    beyond_wash="#F6DFD5",
    rail="#2A3235",
    rail_text="#F1F2EC",
    rail_soft="#B4BDBA",
    brass="#C49A3A",
    brass_text="#1D2629",
    metal="#DDDED7",
)
EVENING = Roles(
    ground="#1B2022",
    sheet="#242A2D",
    line="#465055",
    ink="#ECEDE6",
    soft="#A9B3B2",
    blue="#A9BCF5",
    blue_wash="#2F3C5E",
    on_blue="#141A2B",
    within="#84CBA6",
    within_wash="#25402F",
    near="#E0B85C",
    near_wash="#453A1E",
    beyond="#F29A7C",
    beyond_wash="#4C2A20",
    rail="#12171A",
    rail_text="#ECEDE6",
    rail_soft="#A3ADAB",
    brass="#C49A3A",
    brass_text="#14181A",
    metal="#343C40",
)

# Black on white, lines as dark as words: for eyes or screens that tell little apart.
CONTRAST = Roles(
    ground="#FFFFFF",
    sheet="#FFFFFF",
    line="#5A5A5A",
    ink="#000000",
    soft="#1F1F1F",
    blue="#0A2A8C",
    blue_wash="#CFE0FF",
    on_blue="#FFFFFF",
    within="#00502A",
    within_wash="#D6F5E3",
    near="#6A4500",
    near_wash="#FFE9B0",
    beyond="#7A0016",
    beyond_wash="#FFD9CF",
    rail="#000000",
    rail_text="#FFFFFF",
    rail_soft="#F0F0F0",
    brass="#FFC83D",
    brass_text="#000000",
    metal="#E6E6E6",
)
LOOKS: dict[str, Roles] = {"light": LIGHT, "evening": EVENING, "contrast": CONTRAST}

TOUCH = 40  # px: what a gloved finger hits

_now: Roles = LIGHT
_for_touch = False
_applied: tuple[Roles, bool] | None = None
_moves = True
_on_paper = False


def roles() -> Roles:
    """The set in use."""
    return _now


def use(chosen: Roles) -> None:
    """Take another set; the caller restyles the application."""
    global _now
    _now = chosen


def for_touch(chosen: bool) -> None:
    """Everything that is pressed as large as a gloved finger needs, or as usual; the caller restyles."""
    global _for_touch
    _for_touch = chosen


def target(px: float) -> float:
    """Height of a row that is pressed."""
    return max(px, TOUCH) if _for_touch else px


@contextmanager
def as_on_paper() -> Iterator[None]:
    """What is painted meanwhile goes onto paper: the light set, and words that can be copied."""
    global _now, _on_paper
    was = _now
    _now, _on_paper = LIGHT, True
    try:
        yield
    finally:
        _now, _on_paper = was, False


def let_move(chosen: bool) -> None:
    """Whether what changes may slide there."""
    global _moves
    _moves = chosen


def lasts(milliseconds: int) -> int:
    """How long a movement takes: no time where nothing is to move."""
    return milliseconds if _moves else 0


def colour(role: str) -> QColor:
    """A role's colour."""
    return QColor(getattr(_now, role))


def state_role(state: State) -> str:
    """The role that repeats a state's shape."""
    return {State.WITHIN: "within", State.NEAR: "near", State.BEYOND: "beyond", State.UNKNOWN: "soft"}[state]


STYLE = "Fusion"  # of Qt's own ones the plainest, and the same on every desktop


def load_fonts() -> None:
    """Register the shipped fonts; none is taken from the system."""
    for path in sorted(FONT_FOLDER.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(path))


def font(size: int = BODY, family: str = REGULAR) -> QFont:
    """Our face at a pixel size, with figures that stand in columns; on paper by each sign's own glyph."""
    if _on_paper:
        return paper_font(size, family)
    chosen = QFont(family)
    chosen.setPixelSize(size)
    chosen.setFeature(QFont.Tag("tnum"), 1)
    return chosen


def paper_font(size: int = SMALL, family: str = REGULAR) -> QFont:
    """The same for a PDF: each sign by its own glyph, so that figures and words can be copied and
    searched.
    """
    chosen = QFont(family)
    chosen.setPixelSize(size)
    for feature in ("liga", "clig", "tnum", "calt"):
        chosen.setFeature(QFont.Tag(feature), 0)
    return chosen


def drawing_font(capitals: float) -> QFont:
    """The face drawings are laid out in, its capitals so many dots high."""
    chosen = paper_font(1000, MEDIUM)
    chosen.setPixelSize(max(1, round(1000 * capitals / QFontMetricsF(chosen).capHeight())))
    return chosen


def apply_to(app: QApplication) -> None:
    """Font, palette and style sheet for the whole application.

    Each of them goes over every widget there is, so what stands already is not set again.
    """
    global _applied
    wanted = _now, _for_touch
    if _applied == wanted and app.styleSheet():
        return
    if _applied is None:
        app.setFont(font())
    _applied = wanted
    palette = QPalette()
    for group, role in (
        (QPalette.ColorRole.Window, "ground"),
        (QPalette.ColorRole.Base, "sheet"),
        (QPalette.ColorRole.Text, "ink"),
        (QPalette.ColorRole.WindowText, "ink"),
        (QPalette.ColorRole.Button, "sheet"),
        (QPalette.ColorRole.ButtonText, "ink"),
        (QPalette.ColorRole.Highlight, "blue"),
        (QPalette.ColorRole.Link, "blue"),
        (QPalette.ColorRole.HighlightedText, "on_blue"),
        (QPalette.ColorRole.PlaceholderText, "soft"),
        (QPalette.ColorRole.ToolTipBase, "ink"),
        (QPalette.ColorRole.ToolTipText, "sheet"),
    ):
        palette.setColor(group, colour(role))
    app.setPalette(palette)
    app.setStyleSheet(_STYLE % asdict(_now) + (_TOUCH_STYLE if _for_touch else ""))


_STYLE = """
QWidget#window, QWidget#stop_area { background: %(ground)s; }
QFrame[sheet="true"] { background: %(sheet)s; border: 1px solid %(line)s; border-radius: 4px; }
QFrame#strip { background: %(sheet)s; border: 0; border-bottom: 1px solid %(line)s; }
QFrame#rule { background: %(line)s; border: 0; }
QLabel { background: transparent; }
QLabel#brand { color: %(blue)s; }
QLabel[kind="title"] { font-family: "Barlow Semi Condensed SemiBold"; font-size: 21px; }
QLabel[kind="head"] { font-family: "Barlow Semi Condensed SemiBold"; font-size: 17px; }
QLabel[kind="strong"] { font-family: "Barlow Semi Condensed SemiBold"; }
QLabel[kind="soft"] { color: %(soft)s; }
QLabel[kind="small"] { color: %(soft)s; font-size: 13px; }
QLabel[kind="numeral"] { font-family: "Barlow Semi Condensed Medium"; font-size: 54px; }
QLabel[kind="beneath"] { background: %(sheet)s; color: %(ink)s; border: 1px solid %(blue)s; padding: 3px 6px;
    font-size: 13px; }
QLabel[kind="refused"] { color: %(beyond)s; }
QPushButton { background: %(sheet)s; border: 1px solid %(line)s; border-radius: 3px; padding: 5px 12px;
min-height: 20px; }
QPushButton:hover { border-color: %(blue)s; }
QPushButton:focus { border: 2px solid %(blue)s; padding: 4px 11px; }
QPushButton:disabled { color: %(soft)s; background: %(ground)s; }
QPushButton:checked { background: %(blue)s; color: %(on_blue)s; border-color: %(blue)s; }
QPushButton[kind="chip"] { padding: 5px 8px; }
QPushButton[kind="chip"]:focus { padding: 4px 7px; }
QPushButton[kind="mark"] { padding: 1px 8px; text-align: left; min-height: 18px; font-size: 13px; }
QPushButton[kind="mark"]:focus { padding: 0px 7px; }
QPushButton[mark="yes"] { background: %(near_wash)s; border-color: %(near)s;
font-family: "Barlow Semi Condensed SemiBold"; }
QPushButton[mark="here"] { background: %(within_wash)s; border-color: %(within)s; }
QPushButton[mark="no"] { color: %(soft)s; background: %(ground)s; }
QPushButton[kind="primary"] { background: %(blue)s; color: %(on_blue)s; border: 2px solid %(blue)s;
font-family: "Barlow Semi Condensed SemiBold"; font-size: 17px; }
QPushButton[kind="primary"]:focus { border: 2px solid %(ink)s; }
QPushButton[kind="primary"]:disabled { background: %(metal)s; border-color: %(metal)s; color: %(soft)s; }
QPushButton[kind="dark"] { background: %(ink)s; color: %(sheet)s; border: 2px solid %(ink)s; font-family:
"Barlow Semi Condensed SemiBold"; }
QPushButton[kind="dark"]:focus { border: 2px solid %(brass)s; }
QLabel[lit="true"] { background: %(blue_wash)s; }
QPushButton[kind="link"] { background: transparent; border: 1px solid transparent; color: %(blue)s; padding:
3px 4px; text-align: left; }
QPushButton[kind="link"]:hover { text-decoration: underline; }
QPushButton[kind="link"]:focus { border: 2px solid %(blue)s; padding: 2px 3px; }
QPushButton[kind="lock"]:checked { background: %(within_wash)s; color: %(within)s; border-color: %(within)s;
font-family: "Barlow Semi Condensed SemiBold"; }
QPushButton[kind="lock"] { background: %(near_wash)s; color: %(near)s; border-color: %(near)s; font-family:
"Barlow Semi Condensed SemiBold"; }
QLineEdit, QPlainTextEdit, QComboBox { background: %(sheet)s; border: 1px solid %(soft)s; border-radius: 3px;
padding: 4px 6px; selection-background-color: %(blue)s; selection-color: %(on_blue)s; }
QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus { border: 2px solid %(blue)s; padding: 3px 5px; }
QLineEdit[usual="true"], QComboBox[usual="true"] { background: transparent; border: 1px dashed %(soft)s;
color: %(soft)s; }
QLineEdit[usual="true"]:focus, QComboBox[usual="true"]:focus { border: 2px solid %(blue)s; color: %(ink)s; }
QLineEdit[refused="true"] { border: 2px solid %(beyond)s; }
QListWidget, QTextBrowser { background: %(sheet)s; border: 1px solid %(line)s; border-radius: 3px; }
QListWidget:focus, QTextBrowser:focus { border: 2px solid %(blue)s; }
QListWidget::item { padding: 5px 8px; }
QListWidget::item:selected { background: %(blue_wash)s; color: %(ink)s; }
QComboBox::drop-down { border: 0; width: 22px; }
QComboBox::down-arrow { image: none; }
QComboBox QAbstractItemView { background: %(sheet)s; border: 1px solid %(line)s; selection-background-color:
%(blue_wash)s; selection-color: %(ink)s; }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: 0; }
QScrollBar:vertical { background: transparent; width: 13px; margin: 0; }
QScrollBar::handle:vertical { background: %(line)s; border-radius: 4px; min-height: 30px; margin-left: 4px; }
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page { background:
transparent; height: 0; width: 0; }
QScrollBar:horizontal { background: transparent; height: 9px; }
QScrollBar::handle:horizontal { background: %(line)s; border-radius: 4px; min-width: 30px; }
QFrame[banner="beyond"] { background: %(beyond_wash)s; border: 0; border-left: 5px solid %(beyond)s; }
QFrame[banner="near"] { background: %(near_wash)s; border: 0; border-left: 5px solid %(near)s; }
QFrame[banner="within"] { background: %(within_wash)s; border: 0; border-left: 5px solid %(within)s; }
QFrame[banner="soft"] { background: %(blue_wash)s; border: 0; border-left: 5px solid %(blue)s; }
QMenu { background: %(sheet)s; color: %(ink)s; border: 1px solid %(line)s; padding: 4px 0; }
QMenu::item { padding: 4px 22px; }
QMenu::item:selected { background: %(blue_wash)s; color: %(ink)s; }
QMenu::separator { height: 1px; background: %(line)s; margin: 4px 8px; }
QToolTip { background: %(ink)s; color: %(sheet)s; border: 0; padding: 4px 6px; }
"""


# What is pressed is TOUCH px high with its padding and border.
_TOUCH_STYLE = """
QPushButton { min-height: 28px; }
QPushButton[kind="link"] { min-height: 32px; }
QPushButton[kind="mark"] { min-height: 36px; }
QPushButton[kind="primary"], QPushButton[kind="dark"] { min-height: 26px; }
QLineEdit, QComboBox { min-height: 30px; }
QCheckBox, QRadioButton, QSlider { min-height: 40px; }
QListWidget::item { min-height: 30px; }
QScrollBar:vertical { width: 22px; }
"""


def restyle(widget: QWidget) -> None:
    """Let a changed property take effect; on a widget not dressed yet it does by itself."""
    if not widget.testAttribute(Qt.WidgetAttribute.WA_WState_Polished):
        return
    widget.style().unpolish(widget)
    widget.style().polish(widget)
