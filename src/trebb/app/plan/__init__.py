"""Pages of the stop for the whole job."""
