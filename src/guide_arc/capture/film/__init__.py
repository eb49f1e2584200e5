"""The simulated camera's film: a drawn performer in a plain room, with the truth of every
landmark."""
