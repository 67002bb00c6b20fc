"""Scores kept, and what was done before."""
