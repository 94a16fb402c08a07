"""Help inside the window: for each stop and set-up, the keys, the formulas, and where a figure comes from."""

# The shell's commands, as it says them before anything is shown: what each does, and an example.
COMMANDS: dict[str, tuple[str, str]] = {}
