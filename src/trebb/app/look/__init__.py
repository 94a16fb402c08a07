"""How it looks and is written: colours, type, fields, words, what paints itself. Knows no job."""
