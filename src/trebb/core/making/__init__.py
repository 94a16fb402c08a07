"""Making a part: routes of operations, cuts, correction from a measured size, thread-dial rules."""
