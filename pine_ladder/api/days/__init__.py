"""Days, lines, test-runs, files and the week."""
