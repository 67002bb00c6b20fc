"""The tiers and tracks a gym begins with; it may name its own."""

DEFAULT_TIERS = ("As written", "Scaled", "Foundation")
DEFAULT_TRACKS = ("Heavier", "Lighter")
