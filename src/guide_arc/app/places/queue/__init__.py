"""The queue: the sets that wait, and taking new ones in."""
