"""Hidden-fault machines: a true condition behind the simulated instruments, to train and to prove on."""

from trebb.core.practice.machine import PracticeMachine

__all__ = ["PracticeMachine"]
