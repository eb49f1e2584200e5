"""Where the resistance comes from, and what it asks of the working joint."""
