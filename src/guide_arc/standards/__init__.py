"""Exercise standards: files a coach can read, turned into values the core can use."""
