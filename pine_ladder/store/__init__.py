"""What the gym keeps, in PostgreSQL."""
