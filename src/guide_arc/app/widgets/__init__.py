"""Thin widgets that show drawings and pass on what the hand does."""
