"""The sheets next to a standard's figure."""
