"""Scores: what a piece counts and how, entries read, ranked, compared over time."""
