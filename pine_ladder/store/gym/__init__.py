"""People at the door, and the gym's movements."""
