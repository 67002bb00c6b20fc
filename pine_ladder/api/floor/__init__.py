"""Classes, the remote and the wall, scores kept from the floor."""
