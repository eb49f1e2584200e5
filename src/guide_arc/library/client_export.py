"""Everything of a client into a folder: what is known, every set as a bundle, the years as a table."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Callable
from pathlib import Path

from sqlalchemy import select

from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.bundle import SUFFIX
from guide_arc.formats.client_json import client_text
from guide_arc.library.bundles import write_set
from guide_arc.library.clients import Clients
from guide_arc.library.store import Library
from guide_arc.library.tables import ClientRow, SetRow


def write_all(library: Library, name: str, folder: Path, progress: Callable[[float], None]) -> int:
    """Write it all into a folder of the client's name; how many sets there are. Each file is whole or not there."""
    clients = Clients(library)
    client = clients.client(name)
    target = folder / _safe(name)
    target.mkdir(parents=True, exist_ok=True, mode=0o700)
    write_atomic(target / "known.json", client_text(client, indent=1).encode(), mode=0o600)
    kept = {
        kind: [document for _id, _name, document in clients.kept(kind, name)]
        for kind in clients.kept_kinds(name)
    }
    write_atomic(
        target / "kept.json", json.dumps(kept, indent=1, ensure_ascii=False).encode(), mode=0o600
    )
    write_atomic(target / "sets.csv", _table(clients, name).encode(), mode=0o600)
    with library.reading() as session:
        ask = (
            select(SetRow.id, SetRow.recorded, SetRow.standard)
            .join(ClientRow)
            .where(ClientRow.name == name)
        )
        sets = list(session.execute(ask.order_by(SetRow.recorded, SetRow.id)))
    for i, (set_id, recorded, standard) in enumerate(sets):
        progress(i / len(sets))
        write_set(library, set_id, target / f"{_safe(recorded[:10])}-{standard}-{set_id}{SUFFIX}")
    return len(sets)


def _table(clients: Clients, name: str) -> str:
    """The years as a table: a row for each reviewed set."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        ["recorded", "standard", "school", "load_kg", "left_reps", "right_reps", "partial_reps", "held_reps",
         "range", "lower_s", "under_tension_s", "off", "felt", "pain", "said"]
    )  # fmt: skip
    for s in clients.sets(name):
        trace = s.trace
        writer.writerow(
            [s.at, s.standard, s.school, _blank(s.load_kg), trace.full_reps("left"), trace.full_reps("right"),
             sum(not r.full for r in trace.reps), sum(r.full and r.form == "held" for r in trace.reps),
             _blank(trace.range_[0] if trace.range_ else None), _blank(trace.lower_s[0] if trace.lower_s else None),
             f"{trace.tension_s:.1f}", " ".join(sorted({c.check for c in trace.checks if c.verdict == "off"})),
             "; ".join(s.felt), "yes" if s.pain else "", " | ".join(said.words for said in s.said)]
        )  # fmt: skip
    return out.getvalue()


def _blank(value: float | None) -> str:
    return "" if value is None else f"{value:g}"


def _safe(name: str) -> str:
    """A name that every file system takes."""
    return re.sub(r"[^\w .-]+", "_", name).strip(" .") or "client"
