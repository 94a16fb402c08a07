"""What goes out and comes in: CSV, JSON, spreadsheets, schemas."""
