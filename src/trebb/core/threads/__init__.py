"""Screw threads: forms, limits, tools, wires, wear. Pure functions on frozen values.

Words: *major* is the outside of the screw, *pitch diameter* (PD, E) where
groove and ridge are equally wide, *minor* the bottom of the screw's groove;
*pitch* is ridge to ridge, *lead* the travel in a turn (starts × pitch). Form,
wires and flats go by the pitch; gearing, dial and lead angle by the lead.
"""

from trebb.core.threads.forms import Band, Form, Hand, ThreadSpec, ThreadSpecError
from trebb.core.threads.limits import ThreadLimits, thread_limits
from trebb.core.threads.tool import FlankClearance, compound_infeed_mm, flank_clearance, tool_flat_mm
from trebb.core.threads.wear import axial_play_mm, pitch_dia_loss_mm
from trebb.core.threads.wires import (
    WireError,
    best_wire_exact_mm,
    best_wire_mm,
    pitch_dia_from_balls_mm,
    pitch_dia_from_wires_mm,
    size_between_balls_mm,
    size_over_wires_mm,
    size_over_wires_simple_mm,
    wire_range_mm,
)

__all__ = [
    "Band",
    "FlankClearance",
    "Form",
    "Hand",
    "ThreadLimits",
    "ThreadSpec",
    "ThreadSpecError",
    "WireError",
    "axial_play_mm",
    "best_wire_exact_mm",
    "best_wire_mm",
    "compound_infeed_mm",
    "flank_clearance",
    "pitch_dia_from_balls_mm",
    "pitch_dia_from_wires_mm",
    "pitch_dia_loss_mm",
    "size_between_balls_mm",
    "size_over_wires_mm",
    "size_over_wires_simple_mm",
    "thread_limits",
    "tool_flat_mm",
    "wire_range_mm",
]
