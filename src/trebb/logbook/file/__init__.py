"""The job's file: written once, held by one, read by many; what is kept beside it."""
