"""The HTTP interface: parse the request, call core and store, answer. No rules here."""
