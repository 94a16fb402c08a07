"""Bores: what gauges say of their shape, bushes and sleeves that make them good, tapers that are ground."""
