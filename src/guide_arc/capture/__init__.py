"""Recordings on their way to landmarks: clips, trackers, the simulated film, the drop folder."""
