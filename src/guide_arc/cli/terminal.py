"""What commands print: never a control character of a file's, whatever its name or its facts
hold."""

from __future__ import annotations

import sys

from guide_arc.core.model.plain_text import visible


def say(text: str) -> None:
    """To standard output, with a line break after it."""
    _write(sys.stdout, f"{visible(text, lines=True)}\n")


def tell(text: str) -> None:
    """One line to standard error."""
    _write(sys.stderr, f"{' '.join(visible(text).split())}\n")


def _write(stream: object, text: str) -> None:
    """A terminal that can't show a letter shows a question mark."""
    encoding = getattr(stream, "encoding", None) or "utf-8"
    stream.write(text.encode(encoding, "replace").decode(encoding))  # type: ignore[attr-defined]
    stream.flush()  # type: ignore[attr-defined]
