"""Pace: how long a rep takes, pieces done by many athletes at once, predictions and repairs."""
