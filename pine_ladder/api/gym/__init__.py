"""The gym: settings, movements, the door."""
