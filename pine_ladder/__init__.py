"""Pine Ladder: write, time, run, score and compare a gym's daily sessions."""

__version__ = "0.2.0"
