"""The queue in words: a row as a sentence, and the text of an empty list."""

from __future__ import annotations

import json

from guide_arc.app.services.set_list_document import SetListDocument
from guide_arc.drawings.days import moment_words
from guide_arc.library.queue_rows import QueueRow


def row_words(row: QueueRow, name: str = "") -> str:
    """A row as one sentence. name : of its exercise, for a set that has no review yet"""
    name = str(row.summary["name"]) if row.summary else name or row.standard
    line = row.summary["line"] if row.summary else without_review(row).rstrip("…")
    return f"{row.client}, {name}, {moment_words(row.recorded)}: {line}"


def without_review(row: QueueRow) -> str:
    """What is shown where the verdict will be."""
    if row.has_track:
        return "being reviewed…"
    search = json.loads(row.search) if row.search else {"state": "", "words": ""}
    if search["state"] == "wanted":
        return "its landmarks are being found…"
    if search["state"] == "asks":
        return f"{search['words']}: open it and say who is meant"
    return search["words"] or "a clip without landmarks yet: open it to mark them"


def empty_words(sets: SetListDocument) -> str:
    """What is shown where no row is."""
    if not sets.loaded:
        return "Opening the library…"
    if sets.coach and not sets.words:
        kind = {"waiting": "waiting set", "done": "reviewed set"}.get(sets.state or "", "set")
        return f"{sets.coach}'s clients have no {kind}.\n\nShow all coaches with C."
    if sets.words:
        return f"No set matches “{sets.words}”.\n\nClear the search with Escape."
    if sets.state == "waiting":
        return (
            "No set is waiting.\n\nDrop clips or landmark tracks anywhere on this window,\n"
            "or choose them with “Add sets…” (Ctrl+O)."
        )
    if sets.state == "done":
        return "No set has been reviewed yet.\n\nOpen one and mark it reviewed with Ctrl+Enter."
    return "This library is empty.\n\nDrop clips or landmark tracks here."
