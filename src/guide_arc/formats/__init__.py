"""Readers and writers, one file per format."""
