"""Friction faces: cones, linings, bands."""
