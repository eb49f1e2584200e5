"""`python -m guide_arc` is the `guide-arc` command."""

from guide_arc.start import main

if __name__ == "__main__":  # the demo's helper processes import this file without running it
    main()
