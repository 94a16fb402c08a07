"""What machines are usually like, source by source, as the figures that a shop's own are blended with."""

from __future__ import annotations

from functools import lru_cache

from trebb.core.condition import ErrorModel
from trebb.core.memory.blending import Usual
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import Entry, JobStarted
from trebb.logbook.log.fold import Job

SHOPS = 0.6  # of the usual spread of machines: how far one shop's machines differ from the usual
NOTHING_USUAL = Usual(0.0, 0.05, 0.05)


@lru_cache(maxsize=256)
def usual_wear(of: str) -> Usual:
    """The usual figure of "kind/family/source", mm; a wide one about nothing where no such machine has it."""
    kind, _, rest = of.partition("/")
    family, _, source = rest.partition("/")
    if kind not in ("lathe", "mill", "drill"):
        return NOTHING_USUAL
    for assembly, model in _models(kind):
        if assembly == family:
            for s in model.sources:
                if s.key == source:
                    return Usual(s.mean, SHOPS * s.sd, s.sd)
    return NOTHING_USUAL


@lru_cache(maxsize=4)
def _models(kind: str) -> list[tuple[str, ErrorModel]]:
    started = JobStarted(shop="", machine="", machine_kind=kind)  # type: ignore[arg-type]
    job = Job([Entry(1, "2000-01-01T00:00:00Z", 1, started)])
    return [(case.family, case.model_for("before")) for case in Cases(job).measurable()]
