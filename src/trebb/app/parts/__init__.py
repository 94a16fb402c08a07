"""Parts, drawings, routes and proofs as they are shown."""
