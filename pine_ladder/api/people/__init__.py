"""Routes of people: signing in, accounts, roles."""
