"""Hidden machines: begun, played, told, scored."""
