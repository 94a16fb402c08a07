"""Shafts and what drives them: bent or straight, what they carry, how they are pressed true, and the keys,
pins, splines and squares on them.
"""
