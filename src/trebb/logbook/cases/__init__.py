"""From a job to what the core says of one of its assemblies, and which entries may be recorded."""
