"""Everything that goes on paper: what a paper holds, how it is put on pages, and the look at it before."""
