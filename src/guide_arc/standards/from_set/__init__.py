"""A standard read from a model set."""
