"""The practice bench: what is done, asked and said while a hidden machine is played, and its score."""
