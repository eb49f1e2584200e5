"""Setup: where the pull comes from, what that asks of the joint, and finding the setup for a
wish."""
