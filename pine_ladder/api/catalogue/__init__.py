"""Routes of the catalogue: movements and how they go."""
