"""No test reads or writes the user's own files."""

from __future__ import annotations

import datetime
import os

import pytest

from trebb.core import clock

# What is said is compared in English, whatever the desktop speaks; other languages have tests of their own.
for name in ("LC_ALL", "LANG"):
    os.environ[name] = "C.UTF-8"
os.environ.pop("LANGUAGE", None)

# A job file waits for the disk at every reading, as it should; thousands of tests need not wait with it.
if os.access("/dev/shm", os.W_OK):
    os.environ.setdefault("PYTEST_DEBUG_TEMPROOT", "/dev/shm")


@pytest.fixture(autouse=True)
def own_files_elsewhere(tmp_path_factory, monkeypatch):
    """Rack and table of causes of whoever runs the tests stay untouched."""
    place = tmp_path_factory.mktemp("user")
    monkeypatch.setenv("XDG_DATA_HOME", str(place / "data"))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(place / "config"))
    monkeypatch.setenv("XDG_STATE_HOME", str(place / "state"))


@pytest.fixture(autouse=True)
def set_clock():
    """A function that sets the one clock to a moment; afterwards it is the system's again."""
    real = lambda: datetime.datetime.now(datetime.UTC)  # noqa: E731 - the system, as the application gives it
    clock.give(real)
    yield lambda moment: clock.give(lambda: moment)
    clock.give(real)
