"""`guide-arc simulate-upload`: clients who send their sets over an evening."""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Annotated

import numpy as np
import typer

from guide_arc.capture.upload import Sent, send_over
from guide_arc.cli.progress import shown_progress
from guide_arc.cli.terminal import say
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.library.demo import filmed_clip, sent_sets
    from guide_arc.library.demo_film import filmed_track


def simulate_upload(
    folder: Annotated[
        Path, typer.Argument(help="The drop folder to send to; made where there is none.")
    ],
    sets: Annotated[int, typer.Option(help="How many sets are sent.", min=1, max=200)] = 14,
    clips: Annotated[int, typer.Option(help="How many of them are clips.", min=0, max=50)] = 2,
    seconds: Annotated[
        float, typer.Option(help="How long the evening lasts here.", min=0, max=36000)
    ] = 60.0,
    seed: Annotated[int, typer.Option(help="The same seed sends the same sets.", min=0)] = 0,
    twice: Annotated[
        bool, typer.Option("--twice", help="The first set is sent again under another name.")
    ] = False,
) -> None:
    """Simulated clients film sets and send them to a drop folder, each file bit by bit."""
    rng = np.random.default_rng(seed)
    chosen = sent_sets(sets, seed)
    files: list[Sent] = []
    with tempfile.TemporaryDirectory() as making, shown_progress("filming") as progress:
        for i, filmed in enumerate(chosen):
            progress(i / len(chosen))
            if i < clips:
                name, data = filmed_clip(filmed, seed + i, Path(making))
            else:
                name, data = filmed_track(filmed, seed + i)
            files.append(Sent(name, data, float(rng.uniform(0.0, 1.0))))
    if twice:
        first = files[-1]
        files.append(Sent(f"again-{first.name}", first.data, 1.0))
    send_over(folder, files, seconds, _sent)


def _sent(name: str) -> None:
    say(f"sent {name}")
