"""Help inside the window: for each stop and set-up, the keys, the formulas, and where a figure comes from."""
