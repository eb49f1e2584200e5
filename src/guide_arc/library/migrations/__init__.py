"""Ordered, named steps that bring a library file to the present form."""
