"""From landmarks to joint angles: cleaning, body frames, measures, uncertainty."""
