"""What to do next: the dose of one exercise from what was done, and a session in figures."""
