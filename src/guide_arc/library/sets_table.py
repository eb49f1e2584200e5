"""A client's years as a table."""

from __future__ import annotations

import csv
import io

from guide_arc.formats.csv_cells import text_cell
from guide_arc.library.clients import Clients


def sets_table(clients: Clients, name: str) -> str:
    """The years as a table: a row for each reviewed set."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        [
            "recorded",
            "standard",
            "school",
            "load_kg",
            "left_reps",
            "right_reps",
            "partial_reps",
            "held_reps",
            "range",
            "lower_s",
            "under_tension_s",
            "off",
            "felt",
            "pain",
            "said",
        ]
    )
    for s in clients.sets(name):
        trace = s.trace
        writer.writerow(
            [
                text_cell(s.at),
                text_cell(s.standard),
                text_cell(s.school),
                _blank(s.load_kg),
                trace.full_reps("left"),
                trace.full_reps("right"),
                sum(not r.full for r in trace.reps),
                sum(r.full and r.form == "held" for r in trace.reps),
                _blank(trace.range_[0] if trace.range_ else None),
                _blank(trace.lower_s[0] if trace.lower_s else None),
                f"{trace.tension_s:.1f}",
                " ".join(sorted({c.check for c in trace.checks if c.verdict == "off"})),
                text_cell("; ".join(s.felt)),
                "yes" if s.pain else "",
                text_cell(" | ".join(said.words for said in s.said)),
            ]
        )
    return out.getvalue()


def _blank(value: float | None) -> str:
    return "" if value is None else f"{value:g}"
