"""The review of one set."""
