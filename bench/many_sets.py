"""A library as large as one of years: a few recorded sets, over and over, of many clients and
days."""

from __future__ import annotations

import sqlite3
from pathlib import Path

from builders import filmed
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.standards.loader import standard

STANDARDS = (
    "standing-barbell-curl",
    "rope-pushdown",
    "lateral-raise-dumbbell",
    "front-raise-midline",
    "one-arm-dumbbell-row",
)
# Clients have two hundred sets each.
OF_EACH = 200
FIRST = ("Ada", "Benno", "Cleo", "Dora", "Esme", "Finn", "Greta", "Hanno", "Ilka", "Jonas")
LAST = ("Quill", "Adair", "Marsh", "Vale", "Rook", "Lark", "Thorn", "Birch", "Holm", "Sand")


def grow(folder: Path, count: int, *, reviewed: float = 0.9) -> None:
    """Make a library of so many sets, each with its review. reviewed : this share of them does not
    wait any more"""
    library = Library.open(folder)
    base = []
    for i, id in enumerate(STANDARDS):
        for fault in (False, True):
            plan = standard(id)
            faults = (
                {"torso-swing": 18.0}
                if fault and any(c.name == "torso-swing" for c in plan.checks)
                else {}
            )
            track = filmed(id, reps=8, noise=0.003, seed=i, faults=faults, load_kg=10.0 + i).track
            set_id, _ = library.add_set(
                csv_text(track).encode(),
                f"set-{i}.csv",
                client="Ada Quill",
                standard=id,
                school=plan.school.id,
            )
            review_and_keep(library, set_id, track)
            base.append(set_id)
    library.close()
    with sqlite3.connect(folder / "library.sqlite") as db:
        clients = max(count // OF_EACH, 1)
        names = [
            f"{FIRST[i % 10]} {LAST[i // 10 % 10]}{'' if i < 100 else f' {i // 100}'}"
            for i in range(clients)
        ]
        db.execute("delete from client where name != 'Ada Quill'")
        own = {"Ada Quill": 1}
        for name in names:
            if name not in own:
                own[name] = db.execute(
                    "insert into client (name, profile) values (?, '{}') returning id", (name,)
                ).fetchone()[0]
        ids = [own[name] for name in names]
        columns = [r[1] for r in db.execute("pragma table_info(recorded_set)") if r[1] != "id"]
        listed = ", ".join(columns)
        rows = [
            dict(zip(columns, r, strict=True))
            for r in db.execute(f"select {listed} from recorded_set order by id")
        ]
        marks = ", ".join("?" for _ in columns)
        notes = ("elbows stay", "slept badly", "ask about the knee", "", "")
        for n in range(count - len(base)):
            row = rows[n % len(rows)]
            row = {
                **row,
                "client_id": ids[n % clients],
                "note": notes[n % 5],
                "recorded": (
                    f"{2026 + n // 4000 % 6}-{1 + n // 340 % 12:02d}-{1 + n // 12 % 28:02d}"
                    f"T{8 + n % 12:02d}:15"
                ),
                "state": "done" if (n * 7919 % 1000) / 1000 < reviewed else "waiting",
            }
            made = db.execute(
                f"insert into recorded_set ({listed}) values ({marks})", [row[c] for c in columns]
            )
            db.execute(
                "insert into review (set_id, program, document, glance, trace, said) "
                "select ?, program, document, glance, trace, said from review where set_id = ?",
                (made.lastrowid, base[n % len(base)]),
            )
    db.close()
