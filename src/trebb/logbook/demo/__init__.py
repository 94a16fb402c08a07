"""The demo jobs and the machines they are read from."""
