"""Clients: form against load, over the weeks, cues, what was felt, and what is known of each."""
