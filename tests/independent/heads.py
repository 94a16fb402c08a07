"""A mill's or a drill's head in space, read where the set-ups say."""

from __future__ import annotations

import numpy as np

from tests.independent.job import TypedJob
from tests.independent.rigid import BACK, DOWN, FRONT, LEFT, RIGHT, UP, Cylinder, Face, read

SIDES = {"right": RIGHT, "left": LEFT, "back": BACK, "front": FRONT}


class Head:
    """A mill's or a drill's head: spindle, travel, table and column, each leaning its own way."""

    def __init__(self, kind: str) -> None:
        self.kind = kind
        self.assembly = "head" if kind == "mill" else "table"
        self.spindle, self.travel, self.column, self.table = (np.eye(3) for _ in range(4))
        self.run_out = np.eye(3)  # what running the table out adds

    def swept(self, job: TypedJob) -> TypedJob:
        """An indicator on an arm in the spindle, over the table."""
        for corner, way in SIDES.items():
            at = np.array([0, 0, 300.0]) + self.spindle @ (125.0 * way + 250.0 * DOWN)
            for spot in ("near", "far") if self.kind == "mill" else ("near",):
                top = Face(np.zeros(3), (self.run_out if spot == "far" else np.eye(3)) @ self.table @ UP)
                value = read(top, at, self.spindle @ DOWN, 50)
                job.read(self.assembly, "tram_sweep", f"{spot}, {corner}", *[value] * 2)
        return job

    def squared(self, job: TypedJob) -> TypedJob:
        """A square on the table, read on its left and its front face; the knee, or the quill, goes down."""
        for face, out, toward in (("side face", LEFT, RIGHT), ("front face", FRONT, BACK)):
            for end, down in (("start", 0.0), ("end", 200.0)):
                gone = self.travel @ (down * DOWN)
                at, stands = 30.0 * out + np.array([0, 0, 250.0]), np.zeros(3)
                if self.kind == "mill":
                    stands = stands + gone
                else:
                    at = at + gone
                job.read(
                    self.assembly, "square", f"{face}, {end}", *[read(Face(stands, out), at, toward, 30)] * 2
                )
        return job

    def by_square(self, job: TypedJob) -> TypedJob:
        """An indicator slid up a square on the base, at the column's left, then before it."""
        column = Cylinder(np.zeros(3), self.column @ UP, 40.0)
        for side, out in (("side", LEFT), ("front", FRONT)):
            for end, high in (("below", 100.0), ("above", 400.0)):
                value = read(column, 90.0 * out + np.array([0, 0, high]), -out, 50)
                job.read(self.assembly, "column", f"{side}, {end}", *[value] * 2)
        return job
