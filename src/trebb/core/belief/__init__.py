"""What readings can tell: a size as a curve of chance, exactly, where a normal will not do.

Repeats written to a step and slips of the hand (`repeats`), the largest of
several and what may be nothing at all (`extremes`), what one figure bounds
another by, and readings at odds (`bounds`), and which repair to take or what to
read first (`deciding`). Sizes go in and out in one unit, whichever.
"""
