"""Plots of errors along the travel, the chain and the reach."""
