"""Guide Arc: measures a recorded training set against the intended path."""

__version__ = "0.1.0"
