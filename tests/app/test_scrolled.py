"""A scrolled page whose bar and whose height call each other settles."""

from __future__ import annotations

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QApplication, QVBoxLayout, QWidget

from trebb.app.look.widgets import scrolled


class Restless(QWidget):
    """Higher than its page where it is wide, lower where the bar takes some of its width."""

    def __init__(self, page: int) -> None:
        super().__init__()
        self.page, self.turns = page, 0

    def minimumSizeHint(self) -> QSize:
        return QSize(10, 2 * self.page if self.width() >= self.page else 10)

    def resizeEvent(self, event: object) -> None:
        self.turns += 1


def test_a_page_that_would_go_to_and_fro_for_ever_settles(qapp):
    page = QWidget()
    page.resize(300, 300)
    box = QVBoxLayout(page)
    box.setContentsMargins(0, 0, 0, 0)
    inner = Restless(300)
    box.addWidget(scrolled(inner))
    page.show()
    for _ in range(20):
        QApplication.processEvents()
    assert 0 < inner.turns < 2000
    page.resize(310, 320)
    QApplication.processEvents()
    assert inner.turns < 4000
