"""Programs that read what may not be trusted, in a process of their own."""
