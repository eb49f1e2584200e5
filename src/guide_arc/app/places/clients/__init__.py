"""Clients: form against load, trends over weeks, cues, felt places, and profiles."""
