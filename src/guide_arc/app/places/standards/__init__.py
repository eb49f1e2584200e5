"""The exercise standards: reading, changing, making them."""
