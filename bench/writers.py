"""Two, four and eight writers at once for a minute: no update lost, no error shown.

    ./run dev python bench/writers.py [SECONDS]        60 when left out

Each writer is a process of its own. It adds its number to a document that all share (read, changed
and kept in one transaction), appends to the note of a set of its own through reading and keeping,
and changes one set that all share as two windows do: each decides about a finding of its own. At
the end every number, every note and every decision is counted.
"""

from __future__ import annotations

import multiprocessing as mp
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path
from typing import Any

from builders import filmed
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.clients import Clients
from guide_arc.library.records import Decision
from guide_arc.library.store import Library

PUSHDOWN = "rope-pushdown"


def writer(
    folder: Path, number: int, own: int, shared: int, thing: int, until: float, out: Any
) -> None:
    library = Library.open(folder)
    clients = Clients(library)
    done, longest_s, errors = 0, 0.0, []
    opened = library.record(shared).notes
    while time.time() < until:
        begun = time.perf_counter()
        try:
            clients.change_thing(thing, lambda d: {**d, "n": d["n"] + 1})
            notes = library.record(own).notes
            library.keep_notes(own, replace(notes, note=f"{done}"), notes)
            mine = {
                **opened.decisions,
                f"check-{number}-{done % 50}/both": Decision("keep", str(done)),
            }
            opened = library.keep_notes(shared, replace(opened, decisions=mine), opened).value
        except Exception as error:
            errors.append(repr(error)[:200])
        done += 1
        longest_s = max(longest_s, time.perf_counter() - begun)
    library.close()
    out.put((number, done, longest_s, errors))


def run(count: int, seconds: float) -> tuple[int, float, list[str]]:
    """So many writers for so long; rounds in all, the longest one, what was lost or shown."""
    wrong: list[str] = []
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place) / "library"
        library = Library.open(folder)
        ids = []
        for seed in range(count + 1):
            data = csv_text(filmed(PUSHDOWN, reps=1, load_kg=5.0 + seed).track).encode()
            ids.append(
                library.add_set(
                    data, "a.csv", client="Ada Quill", standard=PUSHDOWN, school="locked"
                )[0]
            )
        thing = Clients(library).keep_thing("count", {"n": 0})
        context = mp.get_context("spawn")
        out = context.Queue()
        until = time.time() + seconds + 2.0
        running = [
            context.Process(target=writer, args=(folder, i, ids[i], ids[-1], thing, until, out))
            for i in range(count)
        ]
        for one in running:
            one.start()
        found = [out.get() for _ in running]
        for one in running:
            one.join()
        rounds = sum(done for _n, done, _l, _e in found)
        wrong += [error for *_rest, errors in found for error in errors]
        ((_id, _name, document),) = Clients(library).kept("count")
        if document["n"] != rounds:
            wrong.append(f"the shared number is {document['n']} after {rounds} rounds")
        decisions = library.record(ids[-1]).notes.decisions
        for number, done, _longest, _errors in found:
            if library.record(ids[number]).notes.note != str(done - 1):
                wrong.append(f"writer {number}: its last note is not there")
            for i in range(max(done - 50, 0), done):
                kept = decisions.get(f"check-{number}-{i % 50}/both")
                if kept is None or kept.words != str(i):
                    wrong.append(f"writer {number}: its decision {i} is lost")
        library.close()
    return rounds, max(longest for _n, _d, longest, _e in found), wrong


def main(seconds: float) -> int:
    bad = 0
    print(
        "| writers | rounds of three writes | the longest round | lost or shown |\n| --- | --- |"
        " --- | --- |"
    )
    for count in (2, 4, 8):
        rounds, longest_s, wrong = run(count, seconds)
        print(f"| {count} | {rounds} | {longest_s:.1f} s | {len(wrong)} |")
        for what in wrong[:10]:
            print("WRONG", what)
        bad += len(wrong)
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main(float(sys.argv[1]) if len(sys.argv) > 1 else 60.0))
