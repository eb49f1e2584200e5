"""Looking into the clips of the dialog while it is open: their pictures first, then what they
show."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from guide_arc.app.contract.job import Job, later
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.app.services.intake import JOBS
from guide_arc.app.services.program import Program


def peek(program: Program, dialog: IncomingDialog) -> None:
    """Fill a dialog's rows as its clips are looked into; what is not through when it closes is
    dropped."""
    open_ = True
    keys: list[str] = []

    def start(work: Callable[..., Any], key: str, then: Callable[[Any], None]) -> None:
        keys.append(key)

        def done(answer: Any) -> None:
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
            later(f"{JOBS}:glimpse", path),
            f"glimpse/{i}",
            lambda p, i=i: dialog.show_pictures(i, p),
        )
    for i, path in clips:
        if dialog.is_open(i):
            start(
                later(f"{JOBS}:propose", path),
                f"propose/{i}",
                lambda p, i=i: dialog.show_proposal(i, p),
            )
    dialog.finished.connect(closed)
