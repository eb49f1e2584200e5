"""What places, services and the shell know of each other: types alone, without Qt and without the
core."""
