"""Classes and their clocks."""
