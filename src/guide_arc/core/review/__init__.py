"""The order of the work: from a track and a standard to a review."""
