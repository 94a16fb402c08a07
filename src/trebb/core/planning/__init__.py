"""The job as a whole: evenings, waits, one pair of hands, a machine that must be whole at times; bars
and their pieces.
"""
