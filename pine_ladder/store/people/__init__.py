"""People: who they are, their links and sessions."""
