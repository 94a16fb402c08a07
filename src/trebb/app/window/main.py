"""The main window: the start page, or the frame of an open job."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QByteArray, QEvent, QMimeData, QSettings, QSize, Qt, QTimer
from PySide6.QtGui import (
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QGuiApplication,
    QKeyEvent,
    QKeySequence,
    QShortcut,
    QShowEvent,
)
from PySide6.QtWidgets import QApplication, QFrame, QMainWindow, QScrollArea, QStackedWidget, QWidget

from trebb.app.look import numerals, text_size, theme
from trebb.app.look.widgets import Cover
from trebb.app.window import preferences
from trebb.app.window.frame import Frame
from trebb.app.window.menu import dropped, is_taken
from trebb.app.window.preferences import Preferences
from trebb.app.window.session import SEEN_AFTER_MS, Session
from trebb.core.errors import TrebbError
from trebb.core.units import UnitSystem
from trebb.logbook.file.file_trouble import IN_USE, JobFileError
from trebb.logbook.file.store import JobFile
from trebb.logbook.memory.taught_for import taught_for

if TYPE_CHECKING:
    from trebb.app.window.one_window import Bell
    from trebb.app.window.start_page import StartPage

BELL_AFTER_MS = 300
DESIGN_SIZE = (1280, 800)
SMALLEST_SIZE = (1100, 700)
MOST_RECENT = 24
TITLE_BAR_PX = 40  # what a desktop puts above a window, at most


class _Pages(QStackedWidget):
    """The pages of the window: what they hold scrolls within them, and asks for no more height."""

    def heightForWidth(self, width: int) -> int:
        return SMALLEST_SIZE[1]


def _paths(data: QMimeData) -> list[Path]:
    """The files that are dragged."""
    return [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()]


class Window(QMainWindow):
    """One window, one job at a time. State of the window, not of the job, is kept in `settings`."""

    def __init__(self, settings: QSettings) -> None:
        super().__init__()
        self.settings = settings
        self.frame: Frame | None = None
        self.setWindowTitle("Trebb")
        room = QGuiApplication.primaryScreen().availableSize()  # a large text may leave less than it takes
        self.setMinimumSize(QSize(*SMALLEST_SIZE).boundedTo(room))
        self.resize(
            QSize(*DESIGN_SIZE).boundedTo(room - QSize(0, TITLE_BAR_PX)).expandedTo(self.minimumSize())
        )
        kept = settings.value("geometry")
        if isinstance(kept, QByteArray):
            self.restoreGeometry(kept)
        self.setAcceptDrops(True)
        self.pages = _Pages()
        self.pages.setMinimumSize(*SMALLEST_SIZE)
        whole = QScrollArea()
        whole.setWidgetResizable(True)
        whole.setFrameShape(QFrame.Shape.NoFrame)
        whole.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        whole.setWidget(self.pages)
        self.setCentralWidget(whole)
        self.again: Callable[[Path | None], object] = lambda path: None  # starts the program once more
        self.ended_by: object = None  # what tells it of signals, alive as long as it
        self._start: StartPage | None = None
        self.bell: Bell | None = None
        self._in_preferences = False
        self._page: QWidget | None = None  # beside the start page: the practice bench, the shop's memory
        for keys, does, words in (
            ("F1", self.show_help, "help on what is on the screen"),
            ("Ctrl+F", self.look_up, "look something up in the help"),
            ("Ctrl+E", self.next_look, "light, evening or high-contrast colours"),
            ("Ctrl++", lambda: self.resize_text(1), "everything a step larger"),
            ("Ctrl+=", lambda: self.resize_text(1), "everything a step larger"),
            ("Ctrl+-", lambda: self.resize_text(-1), "everything a step smaller"),
            ("Ctrl+,", self.show_preferences, "display and sound"),
            ("Ctrl+W", self.leave_job, "close the job; nothing needs saving"),
            ("Ctrl+Q", self.close, "close the window"),
        ):
            made = QShortcut(QKeySequence(keys), self, activated=does)  # type: ignore[call-overload]
            made.setWhatsThis(words)

    @property
    def start(self) -> StartPage:
        """The start page, made when it is first shown: a job opened by name does not wait for it."""
        if self._start is None:
            from trebb.app.window.start_page import StartPage

            self._start = StartPage(self)
            self.pages.insertWidget(0, self._start)
        return self._start

    def showEvent(self, event: QShowEvent) -> None:
        """Something stands in the window when it first shows: the job, or the start page."""
        super().showEvent(event)
        if self.frame is None:
            self.pages.setCurrentWidget(self.start)

    # jobs -------------------------------------------------------------------------------------

    @property
    def recent(self) -> list[Path]:
        """Jobs opened lately that still exist, newest first."""
        return [path for path in self.remembered if path.is_file()]

    @property
    def remembered(self) -> list[Path]:
        """The same with those whose file is not there any more."""
        kept = self.settings.value("recent") or []
        names = [kept] if isinstance(kept, str) else kept if isinstance(kept, list) else []
        return [Path(name) for name in names if isinstance(name, str)]

    def forget(self, path: Path) -> None:
        """Take a job off the list; its file, if it is there, stays."""
        self.settings.setValue("recent", [str(p) for p in self.remembered if p != path])

    def _hang_bell(self) -> None:
        """Listen for a second opening of the job that is shown."""
        if self.frame is None or self.bell is not None:
            return
        from trebb.app.window.one_window import Bell

        self.bell = Bell(self.frame.session.path, self.come_forward, self)

    def open_path(self, path: Path) -> bool:
        """Open a job file; the start page says why if it cannot be."""
        from trebb.logbook.file.looking import ELSEWHERE, open_or_look

        if self._is_mine(path):
            return True
        try:
            job_file = open_or_look(path)
        except JobFileError as error:
            self.start.refuse(str(error), path if error.is_damaged else None)
            return False
        if job_file.why == ELSEWHERE:
            from trebb.app.window.one_window import ring

            if ring(path):  # the window that has it comes forward; why it is not here is said too
                job_file.close()
                self.start.refuse(f"{path.name}: {IN_USE}")
                return False
        return self.open_file(job_file)

    def _is_mine(self, path: Path) -> bool:
        """Whether this window has that job already."""
        return self.frame is not None and self.frame.session.path.resolve() == path.resolve()

    def come_forward(self) -> None:
        """Another start wants this job: its window is shown before all others."""
        self.setWindowState(self.windowState() & ~Qt.WindowState.WindowMinimized)
        self.show()
        self.raise_()
        self.activateWindow()

    def say(self, tone: str, head: str, text: str) -> None:
        """Say something of the whole window, where the user is."""
        if self.frame is not None and self.pages.currentWidget() is self.frame:
            self.frame.trouble.say(tone, head, text)
        else:
            self.start.banner.say(tone, head, text)

    def say_mishap(self, head: str, text: str) -> None:
        """Something went wrong in the program itself: said where the user is."""
        self.say("beyond", head, text)

    def open_another(self) -> None:
        """Choose another job; the one that is open is closed for it."""
        if self.frame is None or self.frame.is_settled():
            self.start.ask_which()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if any(is_taken(path) for path in _paths(event.mimeData())):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        if self.frame is None or self.frame.is_settled():
            dropped([path for path in _paths(event.mimeData()) if is_taken(path)], self)
            event.acceptProposedAction()

    def offer_first_steps(self) -> None:
        """On a demo job, and on the first of one's own, until they were gone through or put away once."""
        frame = self.frame
        if frame is None or frame.session.job.practice_marks("piece"):
            return
        is_own = frame.link.kind != "simulated"
        key = "own_first_steps" if is_own else "first_steps"
        if self.settings.value(key) != "done":
            frame.show_first_steps(lambda: self.settings.setValue(key, "done"), is_own=is_own)

    def show_preferences(self) -> None:
        """How the window looks and sounds; back leads to what was on the screen."""
        if self.frame is not None and not self.frame.is_settled():
            return
        from trebb.app.window.preferences_page import PreferencesPage

        self._beside(PreferencesPage(self, self._from_preferences))
        self._in_preferences = True

    def _from_preferences(self) -> None:
        if self.frame is None:
            self._to_start()
            return
        self.pages.setCurrentWidget(self.frame)
        self._drop_beside()
        self.frame.setFocus()

    def _from_shop(self) -> None:
        """Back to what was on the screen; a job that is open goes by what the memory now says."""
        self._from_preferences()
        if self.frame is not None:
            self.frame.session.teach(taught_for(self.frame.session.job)[0])

    def prefer(self, chosen: Preferences) -> None:
        """Take other preferences, at once."""
        preferences.keep(self.settings, chosen)
        preferences.use(chosen)
        self._restyle()

    def show_look(self, key: str) -> None:
        """Colours by their key; "" : as the desktop has them."""
        self.settings.setValue("look", key)
        theme.use(theme.LOOKS[preferences.look_of(self.settings)])
        self._restyle()

    def follow_desktop(self) -> None:
        """The desktop's colours changed: so do these, where nobody chose others."""
        look = theme.LOOKS[preferences.look_of(self.settings)]
        if look is not theme.roles():
            theme.use(look)
            self._restyle()

    def _restyle(self) -> None:
        """Widgets that hold colours of their own are made again; the job stays open. The old ones go first:
        a new style would visit each of them several times.
        """
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        for cover in self.pages.findChildren(Cover):
            cover.close()
        old, covered = self.frame, self.pages.currentWidget() is not self.frame
        if old is not None:
            old.session.changed.disconnect(old.refresh)
            self._be_rid_of(old)
        if self._start is not None:
            self._be_rid_of(self._start)
            self._start = None
        theme.apply_to(app)
        if old is not None:
            self.frame = Frame(old.session, old.link)
            self.pages.addWidget(self.frame)
            self.frame.go(old.index)
            self.frame.rail.settle()
            if old.first_steps is not None:
                self.offer_first_steps()
        if self._in_preferences:
            self.show_preferences()
        else:
            self._drop_beside()
            self.pages.setCurrentWidget(self.start if self.frame is None or covered else self.frame)

    def _be_rid_of(self, page: QWidget) -> None:
        """Delete a page now, not when the event loop comes to it. Nothing within it may be the caller."""
        self.pages.removeWidget(page)
        page.deleteLater()
        QApplication.sendPostedEvents(page, QEvent.Type.DeferredDelete)

    def show_backups(self) -> None:
        """Copies of jobs, to be restored."""
        from trebb.app.window.backups_page import BackupsPage

        self._beside(BackupsPage(self, self._to_start))

    def show_join(self) -> None:
        """Two copies of a job that went apart."""
        from trebb.app.window.join_page import JoinPage

        self._beside(JoinPage(self, self._to_start))

    def save_what_is_sound(self, path: Path) -> None:
        """What can be read of a damaged job, written beside it and opened."""
        from trebb.logbook.file.backups import salvage, saved_name

        try:
            saved = salvage(path, saved_name(path))
        except TrebbError as error:
            self.start.refuse(str(error))
            return
        if self.open_path(saved.path) and self.frame is not None:
            self.frame.trouble.say("near", "This is what could be read of a damaged job.", saved.words)

    def kept_units(self) -> UnitSystem | None:
        """The units that were shown last, else the desktop's country's; None where neither is known."""
        kept = str(self.settings.value("units"))
        return next((s for s in UnitSystem if s.value == kept), None) or numerals.usual_system()

    def open_file(self, job_file: JobFile, *, seen_first: bool = False) -> bool:
        """Show an open job file; with its figures, or `seen_first` and the figures when it is."""
        self.leave_job()
        system = self.kept_units() or UnitSystem.INCH
        try:
            session = Session(job_file, system)
            session.cases.taught, trouble = taught_for(session.job)
        except JobFileError as error:
            job_file.close()
            self.start.refuse(str(error), job_file.path if error.is_damaged else None)
            return False
        session.figures_wait = seen_first
        frame = Frame(session)
        frame.link.wedge_prefix = str(self.settings.value("wedge_prefix") or "")
        if any(session.job.planted(a.key) is not None for a in session.cases.kind.assemblies):
            if seen_first:
                QTimer.singleShot(SEEN_AFTER_MS, frame, frame.link.use_simulated)
            else:
                frame.link.use_simulated()
        self._show(frame)
        QTimer.singleShot(BELL_AFTER_MS, self._hang_bell)  # it loads a library: the job is seen first
        if trouble:
            frame.trouble.say(
                "near",
                "The shop’s memory cannot be read: figures are the usual ones.",
                f"{trouble}. The job itself does not need it.",
            )
        if unguarded := job_file.unguarded():
            frame.trouble.say("beyond", "This job was changed by another program.", f"{unguarded}.")
        if not session.job.practice_marks("piece"):  # those are found at the practice bench
            self._remember(job_file.path)
        return True

    def _show(self, frame: Frame) -> None:
        self.frame = frame
        self.pages.addWidget(frame)
        self.pages.setCurrentWidget(frame)
        self._drop_beside()
        done = frame.session.case.progress("before")[0]
        frame.go_to("survey" if done else "intake")
        frame.rail.settle()
        started = frame.session.job.started
        self.setWindowTitle(f"Trebb: {started.machine if started else frame.session.path.name}")

    def _remember(self, path: Path) -> None:
        names = [str(path.resolve()), *(str(p) for p in self.remembered if p != path.resolve())]
        self.settings.setValue("recent", names[:MOST_RECENT])

    def leave_job(self) -> None:
        """Close the job and go back to the start page."""
        if self.frame is None:
            return
        self.pages.setCurrentWidget(self.start)
        self._let_job_go()
        self.start.refresh()

    def _let_job_go(self) -> None:
        if self.frame is None:
            return
        self.settings.setValue("units", self.frame.session.system.value)
        self.settings.setValue("wedge_prefix", self.frame.link.wedge_prefix)
        frame, self.frame = self.frame, None
        self.pages.removeWidget(frame)
        if self.bell is not None:
            self.bell.close()
            self.bell.deleteLater()
            self.bell = None
        frame.close_job()
        frame.deleteLater()
        self.setWindowTitle("Trebb")

    def show_practice(self) -> None:
        """The practice bench's page, as things now are."""
        from trebb.app.practice.page import PracticePage

        self._beside(PracticePage(self, self._to_start))

    def show_shop(self) -> None:
        """The shop's memory; back leads to what was on the screen."""
        if self.frame is not None and not self.frame.is_settled():
            return
        from trebb.app.shop.page import ShopPage

        self._beside(ShopPage(self, self._from_shop))

    def _beside(self, page: QWidget) -> None:
        """Show a page beside the start page; it is made anew each time."""
        self._drop_beside()
        self._page = page
        self.pages.addWidget(page)
        self.pages.setCurrentWidget(page)
        page.setFocus(Qt.FocusReason.OtherFocusReason)

    def _drop_beside(self) -> None:
        self._in_preferences = False
        if self._page is not None:
            self.pages.removeWidget(self._page)
            self._page.deleteLater()
            self._page = None

    def _to_start(self) -> None:
        self.pages.setCurrentWidget(self.start)
        self._drop_beside()
        self.start.refresh()

    # looks ------------------------------------------------------------------------------------

    def next_look(self) -> None:
        """Light, evening, high contrast, and light again."""
        if self.frame is not None and not self.frame.is_settled():
            return
        keys = list(theme.LOOKS)
        now = next(key for key, roles in theme.LOOKS.items() if roles is theme.roles())
        self.show_look(keys[(keys.index(now) + 1) % len(keys)])

    def resize_text(self, by: int) -> None:
        """Everything a step larger or smaller: the window opens anew, on the same job."""
        if self.frame is not None and not self.frame.is_settled():
            return
        if text_size.step(self.settings, by) is None:
            return
        path = self.frame.session.path if self.frame is not None else None
        self.close()
        self.again(path)

    def look_up(self) -> None:
        """Help, ready for words; where it is open already, its search."""
        from trebb.app.help.cover import HelpCover

        for open_already in self.pages.findChildren(HelpCover):
            open_already.search.setFocus(Qt.FocusReason.OtherFocusReason)
            open_already.search.selectAll()
            return
        self.show_help()

    def show_help(self) -> None:
        """Help on what is on the screen, with its keys; the same key closes it."""
        from trebb.app.help.cover import HelpCover

        for open_already in self.pages.findChildren(HelpCover):
            open_already.close()
            return
        frame = self.frame if self.pages.currentWidget() is self.frame else None
        cover = HelpCover(self.pages, frame)
        cover.setGeometry(self.pages.rect())
        cover.show()
        cover.raise_()
        cover.search.setFocus(Qt.FocusReason.OtherFocusReason)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Keys that nothing has in focus belong to the bench."""
        if self.frame is not None and self.pages.currentWidget() is self.frame:
            self.frame.keyPressEvent(event)
        else:
            super().keyPressEvent(event)

    def closeEvent(self, event: QCloseEvent) -> None:
        self.settings.setValue("geometry", self.saveGeometry())
        self._let_job_go()
        QTimer.singleShot(0, QApplication.quit)
        event.accept()
