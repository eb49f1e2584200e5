"""The library: clients, sets, tracks, reviews and decisions in one private folder."""
