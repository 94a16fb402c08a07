"""The window: start page, frame of an open job, what stands round every stop."""
