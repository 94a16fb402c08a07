"""The shop's memory: what jobs taught, what was foretold, instruments, search."""
