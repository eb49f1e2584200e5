"""Trackers behind one small interface: marked points, the pose model, and the simulated one."""
