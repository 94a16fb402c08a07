"""What a part of an inch shop's machine says of itself holds no metric unit, and the other way round."""

from __future__ import annotations

import re

import pytest

from tests.demo import demo_at
from trebb.core.errors import TrebbError
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.demo.jobs import DEMOS
from trebb.logbook.log.fold import Job

OTHER = {
    UnitSystem.INCH: re.compile(r"[0-9] (?:mm|µm|kN|N|N·m|m/min)\b"),
    UnitSystem.METRIC: re.compile(r"[0-9] (?:in|thou|lbf|tons|ft·lb|ft/min)\b"),
}
# Bearings, wires and mixed threads keep the name they are sold by.
NAMED = re.compile(r"[0-9.]+ × [0-9.]+ × [0-9.]+ mm|[0-9.]+ mm × [0-9]+ tpi")


@pytest.mark.parametrize("machine", DEMOS)
def test_checks_of_every_part_are_said_in_the_shop_s_units(tmp_path, machine):
    with demo_at(tmp_path / "job.trebb", machine) as job_file:
        cases = Cases(Job(job_file.entries()))
    said = 0
    for assembly in cases.kind.assemblies:
        if not assembly.family:
            continue
        case = cases.of(assembly.key)
        keys = {*case.default_parts, *case.optional_parts, *(p for r in case.possible() for p in r.parts)}
        for key in sorted(keys):
            for system, other in OTHER.items():
                try:
                    checks = case.part(key, system).checks
                except TrebbError:
                    continue
                wrong = [c.sentence for c in checks if other.search(NAMED.sub("", c.sentence))]
                assert not wrong, (assembly.key, key, system, wrong)
                said += len(checks)
    assert said > 50
