"""Hidden-fault machines: a true condition behind the simulated instruments, to train and to prove on."""

from trebb.core.practice.machine import PracticeMachine
from trebb.core.practice.trials import SpindleTrial, minutes_to_settle

__all__ = ["PracticeMachine", "SpindleTrial", "minutes_to_settle"]
