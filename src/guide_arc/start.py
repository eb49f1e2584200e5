"""Where the program starts: straight to the window where no command is given, else to the command
line."""

from __future__ import annotations

import gc
import os
import sys

from guide_arc.core.model.errors import BadInput
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.cli.main import main as command_line
    from guide_arc.cli.window import open_own_library


def main() -> None:
    """The `guide-arc` command."""
    os.umask(0o077)  # recordings of people's bodies are for nobody else on this machine
    if len(sys.argv) == 1:
        sys.exit(_window())
    command_line()


def _window() -> int:
    gc.disable()  # until the window takes collection over (app/services/garbage.py)
    try:
        return open_own_library()
    except BadInput as error:
        sys.stderr.write(f"guide-arc: {' '.join(str(error).split())}\n")
        return 2
