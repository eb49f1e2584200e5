"""The place Clients with years of sets: `./run dev python bench/years.py [SETS]` (3,000 unless
said).

One client has three thousand curls: a recorded set and its review are copied over and over, a day
apart. Prints, in milliseconds and as the median of five: until the place is on the screen with the
client's list, how long reading a client's page takes off the window's thread (with every trend),
and how long the window's own thread works for it.
"""

from __future__ import annotations

import sqlite3
import tempfile
import time
from pathlib import Path
from statistics import median

from PyQt6.QtCore import QSettings

import harness
from builders import filmed
from guide_arc.app.main import application
from guide_arc.app.services.destinations import ToClients, ToQueue
from guide_arc.core.planning.weeks import measures_of
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.client_sheet import read_sheet
from guide_arc.library.clients import Clients
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.standards.loader import standard
from hands import Hands

CLIENT, CURL = "Cleo Marsh", "standing-barbell-curl"
RUNS = 5


def grow(folder: Path, count: int) -> None:
    """Three recorded sets of one client become so many, each on a day of its own."""
    library = Library.open(folder)
    for seed, swing in ((1, 0.0), (2, 14.0), (3, 0.0)):
        faults = {"torso-swing": swing} if swing else {}
        track = filmed(CURL, reps=8, noise=0.003, seed=seed, faults=faults, load_kg=30.0).track
        set_id, _new = library.add_set(
            csv_text(track).encode(),
            "cleo.csv",
            client=CLIENT,
            standard=CURL,
            school=standard(CURL).school.id,
        )
        review_and_keep(library, set_id, track)
    library.close()
    with sqlite3.connect(folder / "library.sqlite") as db:
        columns = [r[1] for r in db.execute("pragma table_info(recorded_set)") if r[1] != "id"]
        day = "date('2020-01-01', '+' || (3 * n.i + s.id) || ' days')"
        picked = ", ".join(day if c == "recorded" else f"s.{c}" for c in columns)
        numbers = "with recursive n(i) as (select 1 union all select i + 1 from n where i < ?)"
        db.execute(
            f"insert into recorded_set ({', '.join(columns)}) {numbers} select {picked} from"
            " recorded_set s, n",
            (count // 3,),
        )
        db.execute(
            "insert into review (set_id, program, document, glance, trace, said) select s.id,"
            " r.program, r.document, r.glance, r.trace, r.said from recorded_set s join"
            " recorded_set o on o.track_hash = s.track_hash and o.id <= 3 join review r on r.set_id"
            " = o.id where s.id > 3"
        )
    db.close()


def timed_ms(act: object) -> float:
    start = time.perf_counter()
    act()  # type: ignore[operator]
    return 1000.0 * (time.perf_counter() - start)


def main() -> None:
    count = harness.number(1, 3000)
    with tempfile.TemporaryDirectory() as folder:
        place = Path(folder) / "library"
        grow(place, count)
        library = Library.open(place)
        sets = Clients(library).sets(CLIENT, CURL)
        read = median(
            timed_ms(lambda: read_sheet(library, lambda _s: None, CLIENT, CURL))
            for _ in range(RUNS)
        )
        trends = median(timed_ms(lambda: measures_of(sets)) for _ in range(RUNS))
        library.close()
        app = application()
        window = Hands(place, QSettings(str(Path(folder) / "w.ini"), QSettings.Format.IniFormat))
        window.shell.resize(1280, 800)

        def shown() -> float:
            window.program.go(ToQueue())
            window.settle()
            start = time.perf_counter()
            window.program.go(ToClients())
            window.shell.grab()
            ms = 1000.0 * (time.perf_counter() - start)
            window.settle()
            return ms

        shown()
        screen = median(shown() for _ in range(RUNS))
        own = []
        for _ in range(RUNS):
            model = window.of("clients").model
            sheet = model.doc.sheet
            start = time.thread_time()
            model.show(model.doc.with_sheet(sheet))
            window.shell.grab()
            own.append(1000.0 * (time.thread_time() - start))
        window.close()
        del app
    print(f"{len(sets)} sets of one exercise")
    print(
        f"place on the screen {screen:.0f} ms; the window's thread for a page {median(own):.0f} ms"
    )
    print(f"a page read off the window's thread {read:.0f} ms, of it the trends {trends:.0f} ms")


if __name__ == "__main__":
    main()
