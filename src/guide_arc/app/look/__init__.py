"""Colours, type and icons."""
