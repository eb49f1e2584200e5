"""The command line: one file per command; `main` turns errors into one sentence."""
