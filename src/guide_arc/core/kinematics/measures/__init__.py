"""Every measure of the body, each declared once in a file of its own as SPEC."""
