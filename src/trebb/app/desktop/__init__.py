"""What a desktop is told of Trebb: entry, icon, kind of file, catalogue entry, manual page, completion."""
