"""What is loaded when: the window stands first, and what only figures need comes with them."""

from __future__ import annotations

import gc
import importlib.util
import sys
import threading
import types
from typing import Any


def load_before_qt() -> None:
    """Load what a window with a job needs that is not Qt, with the collector off until the window stands:
    nothing of what is loaded here is ever garbage, and to look for some is a tenth of the start. Qt's binding
    looks at every module imported after it, so all that is not Qt comes first.
    """
    gc.disable()
    for name in ("numpy", "serial"):
        lazily(name)
    import trebb.instruments
    import trebb.logbook.cases.casework  # noqa: F401

    leave_sources_unread()


_LOADING = threading.RLock()
_MARK = "_is_loading"


class _Later(types.ModuleType):
    """A module that loads itself when something of it is first asked for; whoever else asks meanwhile waits.

    importlib has such a one (`LazyLoader`), but the import system's own question whether a module is whole
    already loads that: the second module to import it would.
    """

    def __getattribute__(self, name: str) -> Any:
        own = types.ModuleType.__getattribute__
        if name in ("__class__", "__name__", "__spec__"):
            return own(self, name)
        with _LOADING:
            inside = own(self, "__dict__")
            if own(self, "__class__") is _Later and _MARK not in inside:
                inside[_MARK] = True  # what it asks of itself while it loads is answered as far as it is
                try:
                    own(self, "__spec__").loader.exec_module(self)
                    self.__class__ = types.ModuleType  # type: ignore[assignment]
                finally:
                    del inside[_MARK]
        return own(self, name)


def lazily(name: str) -> None:
    """Let a module's name stand for it until something of it is asked for.

    Figures are worked out with NumPy, and a window shows the readings before the figures; a serial port is
    opened later still.
    """
    spec = importlib.util.find_spec(name) if name not in sys.modules else None
    if spec is not None:
        module = sys.modules[name] = importlib.util.module_from_spec(spec)
        module.__class__ = _Later


def leave_sources_unread() -> None:
    """Keep Qt's binding from reading our sources: it looks in every module for a spelling of its names that
    nobody here switches on, which is a twentieth of the start. Where it does that no longer, nothing happens.
    """
    import PySide6.QtCore  # noqa: F401 (brings the other)

    feature = sys.modules.get("shibokensupport.feature")
    if hasattr(feature, "_mod_uses_pyside"):
        feature._mod_uses_pyside = lambda module: False  # type: ignore[union-attr]
