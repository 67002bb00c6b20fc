"""Boards as coaches write them: from lines of any habit to pieces in exact notation."""
