"""The shop's memory: what its jobs teach the next one."""
