"""The week: what its days load, and steps from one week to the next."""
