"""`python -m guide_arc` is the `guide-arc` command."""

from guide_arc.cli.main import main

main()
