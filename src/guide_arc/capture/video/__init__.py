"""Clips: what they are, reading any frame of them, a small copy to scrub in, and writing new
ones."""
