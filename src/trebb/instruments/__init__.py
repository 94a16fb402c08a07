"""Instruments: one line-based protocol, a serial reader, and a simulated indicator behind a real
pseudo-terminal.

May import `trebb.core`; knows nothing of Qt or of jobs. The reader runs in a
thread of its own and keeps the latest sample; whoever shows it polls.
"""

from trebb.instruments.protocol import (
    FORMATS,
    LineFormat,
    Offer,
    ProtocolError,
    Sample,
    format_line,
    offer_of,
    parse_line,
)
from trebb.instruments.reader import IndicatorReader, LinkState, PortError, available_ports, named_ports
from trebb.instruments.simulated import Faults, SimulatedIndicator

__all__ = [
    "FORMATS",
    "Faults",
    "IndicatorReader",
    "LineFormat",
    "LinkState",
    "Offer",
    "PortError",
    "ProtocolError",
    "Sample",
    "SimulatedIndicator",
    "available_ports",
    "format_line",
    "named_ports",
    "offer_of",
    "parse_line",
]
