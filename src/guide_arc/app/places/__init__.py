"""The places in the window: queue and review."""
