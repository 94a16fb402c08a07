"""Which instrument: simulated, typed or by a wedge cable, or a serial port; its lines as they come, and the
format that fits them.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QWidget

from trebb.app.look.typed import BenchEdit
from trebb.app.look.widgets import Choice, button, column, label, row
from trebb.app.survey.instrument_link import InstrumentLink
from trebb.instruments import FORMATS, named_ports, offer_of
from trebb.instruments.reader import BAUD

BAUDS = (1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200)
LINES_SHOWN = 4
ENOUGH_LINES = 3  # before a format is offered
NO_PORT = "/dev/ttyUSB0"
SAME_MM = 1e-6


class InstrumentChoice(QWidget):
    """Opened from the pod with Ctrl+I."""

    def __init__(
        self, link: InstrumentLink, use: Callable[..., object], reads_to: Callable[[float], object]
    ) -> None:
        super().__init__()
        self._link, self._use, self._reads_to = link, use, reads_to
        self._offered = ""
        box = column(spacing=4)
        self.setLayout(box)
        self.simulated = button(
            "Simulated machine", lambda: use("simulated"), tip="Read the practice machine by its serial line"
        )
        box.addWidget(self.simulated)
        keys = row(spacing=4)
        keys.addWidget(
            button("Typed, or wedge cable", lambda: use("keys"), tip="Readings come from the keyboard"), 1
        )
        self.prefix = BenchEdit()
        self.prefix.setObjectName("wedge_prefix")
        self.prefix.setMaxLength(8)
        self.prefix.setFixedWidth(64)
        self.prefix.setPlaceholderText("prefix")
        self.prefix.setAccessibleName("What the wedge cable types before each figure")
        self.prefix.setToolTip("What the wedge cable types before each figure, such as D; nothing for none")
        self.prefix.textChanged.connect(self._set_prefix)
        keys.addWidget(self.prefix)
        box.addLayout(keys)
        self.steps = Choice()
        self.steps.setObjectName("reads_to")
        self.steps.setAccessibleName("What it reads to")
        self.steps.setToolTip(
            "The finest that it is read to: a coarse needle knows less, however often it is read"
        )
        self.steps.activated.connect(lambda at: self._reads_to(float(self.steps.itemData(at))))
        box.addWidget(self.steps)
        self.ports, self.formats, self.bauds = Choice(), Choice(), Choice()
        self.ports.setEditable(True)
        self.ports.setToolTip("Serial port of the indicator; Bluetooth ones are among them")
        self.ports.setObjectName("port")
        self.formats.setToolTip("How the indicator writes a reading")
        for line_format in FORMATS.values():
            self.formats.addItem(line_format.label, line_format.key)
        self.bauds.setToolTip("Baud rate of the line")
        for baud in BAUDS:
            self.bauds.addItem(f"{baud} baud", baud)
        self.bauds.setCurrentIndex(BAUDS.index(BAUD))
        for choice, name in ((self.ports, "Port"), (self.formats, "Format"), (self.bauds, "Baud rate")):
            choice.setAccessibleName(name)
            box.addWidget(choice)
        box.addWidget(button("Read this port", self._open, tip="Open the serial port", name="read_port"))
        self.lines = label("", "small", wrap=True)
        self.lines.setAccessibleName("Lines as they come")
        box.addWidget(self.lines)
        self.offer = button("", self._take_offer, tip="Read its lines so", name="take_format")
        box.addWidget(self.offer)
        self.done = button("Done", self.hide, kind="link", tip="Close this choice", key="Ctrl+I")
        box.addWidget(self.done)
        for widget in (self.lines, self.offer, self.done):
            widget.hide()

    def fill_steps(self, steps: Sequence[tuple[str, float]], chosen: float) -> None:
        """Offer steps in words, in mm; none where nothing is read to one."""
        self.steps.setVisible(bool(steps))
        self.steps.clear()
        for words, step in steps:
            self.steps.addItem(words, step)
        at = next((i for i, (_, step) in enumerate(steps) if abs(step - chosen) < SAME_MM), 0)
        self.steps.setCurrentIndex(at)

    def fill(self, *, has_practice: bool) -> None:
        """List what is there."""
        self.simulated.setVisible(has_practice)
        self.prefix.setText(self._link.wedge_prefix)
        typed = self._port()
        self.ports.clear()
        for device, words in named_ports():
            self.ports.addItem(f"{device}  {words}".strip(), device)
        if not self.ports.count():
            self.ports.addItem(typed or NO_PORT, typed or NO_PORT)
        self.show_lines()

    def _port(self) -> str:
        """The device chosen, or typed: names that a port gives itself are for eyes only."""
        text = self.ports.currentText().strip()
        at = self.ports.findText(text)
        return str(self.ports.itemData(at)) if at >= 0 else text

    def _set_prefix(self, text: str) -> None:
        self._link.wedge_prefix = text.strip()

    def _open(self) -> None:
        self._use("serial", self._port(), str(self.formats.currentData()), int(self.bauds.currentData()))
        self.show_lines()

    def show_lines(self) -> None:
        """The newest lines as they came, and the format that fits where another is in use."""
        reader = self._link.serial
        self.done.setVisible(reader is not None)
        self.lines.setVisible(reader is not None)
        self.offer.hide()
        if reader is None:
            return
        came = reader.raw_lines
        shown = "\n".join(came[-LINES_SHOWN:]) or "no line came yet"
        offer = offer_of(came) if len(came) >= ENOUGH_LINES else None
        self._offered = offer.key if offer is not None and offer.key != reader.format.key else ""
        if len(came) >= ENOUGH_LINES and offer is None:
            shown += "\nNo format fits these: try another baud rate."
        if self._offered:
            assert offer is not None
            shown += f"\n{offer.fits} of {offer.lines} read as {FORMATS[offer.key].label}: {offer.words}."
            self.offer.setText(f"Read them as {FORMATS[offer.key].label.split(', such')[0]}")
            self.offer.show()
        self.lines.setText(shown)

    def _take_offer(self) -> None:
        """Use the format offered on the port that is open."""
        reader = self._link.serial
        if reader is None or not self._offered:
            return
        self.formats.setCurrentIndex(self.formats.findData(self._offered))
        self._use("serial", reader.port, self._offered, reader.baud)
        self.show_lines()
