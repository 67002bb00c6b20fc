"""The catalogue: movements and kit."""
