"""What a shop's own jobs teach: usual figures blended with its own, by how much was seen."""
