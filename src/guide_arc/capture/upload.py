"""Clients who send their sets over an evening: files written into a folder bit by bit."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from pathlib import Path
from typing import Final

# Parts of a file that are sent one by one.
_BITS: Final = 6


@dataclass(frozen=True)
class Sent:
    """One file that a client sends: its name and bytes, and when in the evening, 0 to 1."""

    name: str
    data: bytes
    at: float


def send_over(
    folder: Path,
    files: Iterable[Sent],
    seconds: float,
    told: Callable[[str], None],
    wait: Callable[[float], None] = time.sleep,
) -> None:
    """Write the files into a folder over so many seconds, each in several bits, as an upload
    arrives."""
    folder.mkdir(parents=True, exist_ok=True)
    at = 0.0
    for sent in sorted(files, key=lambda s: s.at):
        wait(max(seconds * (sent.at - at), 0.0))
        at = max(at, sent.at)
        size = max(1, -(-len(sent.data) // _BITS))
        with (folder / sent.name).open("wb") as out:
            for start in range(0, len(sent.data), size):
                out.write(sent.data[start : start + size])
                out.flush()
                wait(min(0.15, 0.02 * seconds))
        told(sent.name)
