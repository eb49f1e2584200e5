"""The sheets beside a standard's figure."""
