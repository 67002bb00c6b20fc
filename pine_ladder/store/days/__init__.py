"""Days and their boards."""
