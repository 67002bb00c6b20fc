"""Pine Ladder: write, time, run, score and compare a gym's daily sessions."""
