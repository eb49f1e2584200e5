"""`guide-arc demo`: the window with the demo library, in a separate folder."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.window import need_display
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.contract.job import Job, on_library
    from guide_arc.app.main import open_window
    from guide_arc.library.demo import fill_waiting, helpers, prepare
    from guide_arc.library.demo_history import fill_rest
    from guide_arc.library.place import demo_library_folder


def demo(
    screenshot: Annotated[
        Path | None, typer.Option(help="Review the demo's sets, save a picture here, and stop.")
    ] = None,
    fresh: Annotated[
        bool, typer.Option("--fresh", help="Build the demo library again first.")
    ] = False,
) -> None:
    """Opens the demo library: a made-up touring company's sets, filmed by the simulated camera."""
    need_display()
    folder = demo_library_folder()
    # A new library's helpers come up while the window opens.
    pool = helpers() if prepare(folder, fresh=fresh) else None
    waiting = Job("Filming the waiting sets", on_library(fill_waiting, pool))
    rest = Job("Filming the twelve weeks before", on_library(fill_rest))
    raise typer.Exit(open_window(folder, screenshot=screenshot, beside=(waiting, rest)))
