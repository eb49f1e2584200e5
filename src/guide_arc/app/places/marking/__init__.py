"""Marking a clip: joints, kit, scale and vertical, and the trackers."""
