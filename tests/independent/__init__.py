"""Machines simulated without the product's own model: other faults, other distributions, what an instrument
and a hand really do. Nothing here may import `core.survey`, `core.machine` or `core.practice`.
"""
