"""Where the program starts: straight to the window where no command is given, else to the command
line."""

from __future__ import annotations

import gc
import os
import sys


def main() -> None:
    """The `guide-arc` command."""
    os.umask(0o077)  # recordings of people's bodies are for nobody else on this machine
    if len(sys.argv) == 1:
        sys.exit(_window())
    from guide_arc.cli.main import (  # noqa: PLC0415
        main as command_line,
    )

    command_line()


def _window() -> int:
    gc.disable()  # until the window takes collection over (app/services/garbage.py)
    from guide_arc.core.model.errors import BadInput  # noqa: PLC0415

    try:
        from guide_arc.cli.window import open_own_library  # noqa: PLC0415

        return open_own_library()
    except BadInput as error:
        sys.stderr.write(f"guide-arc: {' '.join(str(error).split())}\n")
        return 2
