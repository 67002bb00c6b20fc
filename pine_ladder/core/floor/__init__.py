"""The class on the gym floor: calls, the remote, heats and partners, jots."""
