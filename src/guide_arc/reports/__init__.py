"""Pages that leave the program."""
