"""Work on clients' answers, off the window's thread: (library, progress, …)."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from pathlib import Path

from guide_arc.app.contract.job import Progress
from guide_arc.core.model.errors import BadInput
from guide_arc.library.answers import Matched, TakenAnswer, match, take_answer
from guide_arc.library.quarantine import quarantine_file, release_file
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library


@dataclass(frozen=True)
class Arrived:
    """An answer that came. path : its file; None for one from the clipboard. matched : the set that
    it belongs to; None if it can't be used, and `why` says the reason"""

    path: Path | None
    matched: Matched | None = None
    why: str = ""


def match_all(
    library: Library, progress: Progress, texts: tuple[tuple[Path | None, str], ...], today: date
) -> tuple[Arrived, ...]:
    """Find the set of each answer. A file that can't be used is quarantined."""
    out = []
    for i, (path, text) in enumerate(texts):
        progress(i / len(texts))
        try:
            out.append(Arrived(path, match(library, text, today)))
        except BadInput as error:
            out.append(Arrived(path, why=str(error)))
            if path is not None:
                quarantine_file(library, path, f"{path.name}: {error}.")
        else:
            if path is not None:
                release_file(library, path)
    return tuple(out)


def take(library: Library, progress: Progress, matched: Matched) -> TakenAnswer:
    """Take one answer in, and review its set again with what was felt."""
    progress(0.0)
    out = take_answer(library, matched)
    if not library.record(matched.set_id).waits_for_landmarks:
        review_and_keep(library, matched.set_id)
    return out
