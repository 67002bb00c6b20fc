"""The day: its hour, and the board as athletes read it."""
