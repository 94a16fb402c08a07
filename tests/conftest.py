"""No test reads or writes the user's own files."""

from __future__ import annotations

import datetime
import gc
import os

import hypothesis
import pytest

from tests.sweeps import is_kept
from trebb.core import clock

# No test hangs on how fast the machine is, also not on how long an example takes to be drawn.
hypothesis.settings.register_profile(
    "any_machine", deadline=None, suppress_health_check=[hypothesis.HealthCheck.too_slow]
)
hypothesis.settings.load_profile("any_machine")
gc.set_threshold(50_000, 20, 50)  # windows by the thousand: looked through seldom, and whole at their end

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


def pytest_addoption(parser):
    parser.addoption("--sweep", action="store_true", help="every machine, family and size, not only some")


def pytest_collection_modifyitems(config, items):
    if config.getoption("--sweep"):
        return
    left_out = [item for item in items if not is_kept(item.name)]
    if left_out:
        config.hook.pytest_deselected(items=left_out)
        items[:] = [item for item in items if is_kept(item.name)]
