"""Looking into the clips of the dialog while it is open: their pictures first, then what they
show."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TypeVar

from guide_arc.app.contract.job import Job, OnLibrary, on_library
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.app.places.queue.needs import QueueNeeds
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import intake_jobs

R = TypeVar("R")


def peek(program: QueueNeeds, dialog: IncomingDialog) -> None:
    """Fill a dialog's rows as its clips are looked into; what is not through when it closes is
    dropped."""
    open_ = True
    keys: list[str] = []

    def start(work: OnLibrary[R], key: str, then: Callable[[R], None]) -> None:
        keys.append(key)

        def done(answer: R) -> None:
            if open_:
                then(answer)

        program.start(Job("", work, key, "now"), done)

    def closed() -> None:
        nonlocal open_
        open_ = False
        for key in keys:
            program.jobs.stop(key)

    clips = [(i, item.clip) for i, (item, _form) in enumerate(dialog.forms) if item.clip]
    for i, path in clips:
        start(
            on_library(intake_jobs.glimpse, path),
            f"glimpse/{i}",
            partial(dialog.show_pictures, i),
        )
    for i, path in clips:
        if dialog.is_open(i):
            start(
                on_library(intake_jobs.propose, path),
                f"propose/{i}",
                partial(dialog.show_proposal, i),
            )
    dialog.finished.connect(closed)
