"""The eight stops, one module each. `register.STOPS` lists them in order."""
