"""What other recordings of one day show of the checks that one recording hides."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from guide_arc.library.clients import Clients
from guide_arc.library.records import SetRecord
from guide_arc.library.store import Library

_DAY = len("2031-03-08")


@dataclass(frozen=True)
class OtherRecording:
    """Another recorded set of the same client, exercise and day.

    view : the view in words, such as "Seen from the left"
    shows : by a finding's key, whether the check was surely kept or surely broken there
    """

    set_id: int
    recorded: str
    view: str
    shows: Mapping[str, Literal["held", "broke"]]


def recordings_of_that_day(library: Library, record: SetRecord) -> tuple[OtherRecording, ...]:
    """The day's other sets of this exercise, oldest first; recordings of the same set are reviewed
    with it already."""
    return tuple(
        OtherRecording(
            kept.id,
            kept.at,
            kept.trace.view,
            MappingProxyType(
                {
                    check.key: "held" if check.verdict == "ok" else "broke"
                    for check in kept.trace.checks
                    if check.verdict in ("ok", "off")
                }
            ),
        )
        for kept in Clients(library).sets(record.client, record.standard, record.recorded[:_DAY])
        if kept.id != record.id
    )
