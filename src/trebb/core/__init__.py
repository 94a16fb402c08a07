"""The computation: no interface, no database, no files.

Lengths are millimetres, angles radians, forces newtons, temperatures degrees
Celsius and times seconds unless a name says otherwise (`sag_um`, `angle_deg`).
Nothing here may import `trebb.logbook`, `trebb.instruments` or `trebb.app`.
"""
