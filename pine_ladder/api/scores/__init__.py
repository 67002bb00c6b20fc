"""The sheet, doubts, standings, progress."""
