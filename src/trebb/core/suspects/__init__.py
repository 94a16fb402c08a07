"""From what the owner hears, feels and sees to what may be wrong, and the look that settles most a minute."""
