"""A train of gears from one shaft to another."""

from trebb.core.register import Family

RECORDS = {
    "train": Family(
        set_ups=("reading.ROCK",),
        remedies="remedies.TRAIN_REMEDIES",
        parts=("parts.FAMILY",),
        routes=("routes.ROUTES",),
        fit_up="fitup.train_steps",
        judging="findings.JUDGING",
        added="Train of gears",
        is_piece=True,
    ),
}
