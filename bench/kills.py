"""Every kind of write, killed (`kill -9`) at random moments, over and over on one library.

    ./run dev python bench/kills.py [KILLS]        1,000 when left out

A child writes without end and says before and after each write what it writes. After each kill the
library is opened as at the next start, and looked through: what was said to be written has to stand
there, word for word; the one write that was under way, whole or not at all; the file sound, every
referenced file there with its bytes, and nothing left that no set names. Prints a line for each
kill that left anything else, and ends with 1 then.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import random
import signal
import sqlite3
import sys
import tempfile
import time
from collections import Counter
from datetime import date, timedelta
from pathlib import Path
from typing import Any

HERE = Path(__file__).resolve()

import harness
from builders import filmed
from clips import numbered_clip
from guide_arc.core.model.client import Client
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.settings import Correction, Settings
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.backups import bring_back, daily
from guide_arc.library.bundles import take_bundle, write_set
from guide_arc.library.checking import check
from guide_arc.library.clients import Clients
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.records import Decision, SetNotes, SetPart
from guide_arc.library.set_document import added
from guide_arc.library.store import Library
from guide_arc.library.taking_out import forget_own, forget_taken_out, take_out
from guide_arc.library.undoing import finish_wanted, take_back
from guide_arc.standards.loader import shipped

PUSHDOWN, SCHOOL = "rope-pushdown", "locked"
MOST_SETS = 14
LONGEST_S = 0.35
TRACK = csv_text(filmed(PUSHDOWN, reps=1, rate=10.0).track)
# What a standard of the coach's own looks like; only its name is another each time.
STANDARD = (harness.ROOT / "src/guide_arc/standards/data/triceps/rope-pushdown.toml").read_text()

State = dict[str, Any]


def track(n: int) -> bytes:
    return TRACK.replace("# view", f"# round: {n}\n# view", 1).encode()


def plain(notes: SetNotes) -> dict[str, Any]:
    """A document as it comes through a pipe."""
    found: dict[str, Any] = json.loads(json.dumps(added(notes)))
    return found


class Writer:
    """One child's writes. Each says what the library holds after it."""

    def __init__(self, folder: Path, clip: Path, n: int, out: int) -> None:
        self.library = Library.open(folder)
        self.clip, self.rng, self.out = clip, random.Random(n), out
        self.day = date(2031, 1, 1) + timedelta(days=40 * n)
        self.clients = Clients(self.library)
        forget_taken_out(self.library)

    def say(self, kind: str, **what: Any) -> None:
        os.write(self.out, (json.dumps({"kind": kind, **what}) + "\n").encode())

    def run(self) -> None:
        while True:
            ids = sorted(self.library.ids())
            acts = [self.add] * 3 + [
                self.add_clip,
                self.keep_setting,
                self.keep_standard,
                self.copy,
            ]
            if ids:
                acts += [self.keep_notes] * 4 + [
                    self.keep_review,
                    self.keep_profile,
                    self.keep_thing,
                    self.change,
                    self.erase,
                    self.out_and_back,
                    self.split,
                    self.bundle,
                    self.find,
                    self.restore,
                ]
            act = (
                self.erase
                if len(ids) > MOST_SETS and self.rng.random() < 0.5
                else self.rng.choice(acts)
            )
            act()

    def next_day(self) -> date:
        self.day += timedelta(days=1)
        return self.day

    def some(self) -> int:
        return self.rng.choice(sorted(self.library.ids()))

    def add(self) -> None:
        n = self.rng.randrange(10**9)
        key = hashlib.sha256(track(n)).hexdigest()
        self.say("begin", act="add", may={f"track {key}": True})
        set_id, _ = self.library.add_set(
            track(n), f"{n}.csv", client=f"Client {n % 3}", standard=PUSHDOWN, school=SCHOOL
        )
        self.say("done", now={f"set {set_id}": key})

    def add_clip(self) -> None:
        n = self.rng.randrange(10**9)
        own = self.clip.with_name(f"{n}.mp4")
        own.write_bytes(
            self.clip.read_bytes() + n.to_bytes(8, "big")
        )  # another clip for the library
        self.say("begin", act="add a clip", may={f"clip {n}": True})
        try:
            set_id, _ = ClipSets(self.library).add(
                own, ClipDetails(f"Client {n % 3}", PUSHDOWN, SCHOOL, "left")
            )
        finally:
            own.unlink()
        self.say("done", now={f"set {set_id}": self.library.record(set_id).clip_hash})

    def find(self) -> None:
        """Landmarks for a clip, in place of others."""
        clips = [i for i in sorted(self.library.ids()) if self.library.record(i).clip_hash]
        if not clips:
            return
        set_id = self.rng.choice(clips)
        found = filmed(
            PUSHDOWN, reps=1, rate=10.0, view="left", seed=self.rng.randrange(10**6), noise=1.0
        ).track
        self.say("begin", act="keep landmarks", may={f"landmarks {set_id}": True})
        ClipSets(self.library).keep_track(set_id, found, "simulated")
        self.say("done", now={f"review {set_id}": None})

    def keep_notes(self) -> None:
        set_id, n = self.some(), self.rng.randrange(10**9)
        notes = SetNotes(
            {"torso-swing/both": Decision("reword", f"cue {n}", "Marit", "2031-05-01")},
            f"note {n} " * 40,
            "done",
            n % 2 == 0,
            Settings((Correction("delete", 1.0 + n % 7),), n % 3, ("lats",)),
        )
        self.say("begin", act="keep notes", may={f"notes {set_id}": added(notes)})
        self.library.keep_notes(set_id, notes)
        self.say("done", now={f"notes {set_id}": added(notes)})

    def keep_review(self) -> None:
        set_id, n = self.some(), self.rng.randrange(10**9)
        self.say("begin", act="keep a review", may={f"review {set_id}": n})
        self.library.keep_review(
            set_id, "1", {"n": n, "long": "x" * 9000}, {"line": f"line {n}", "found": ["swing"]}
        )
        self.say("done", now={f"review {set_id}": n})

    def keep_profile(self) -> None:
        name = self.library.record(self.some()).client
        client = Client(name, goals=f"goal {self.rng.randrange(10**9)}")
        self.say("begin", act="keep a profile", may={f"client {name}": client.goals})
        self.clients.keep(client)
        self.say("done", now={f"client {name}": client.goals})

    def keep_thing(self) -> None:
        n = self.rng.randrange(10**9)
        self.say("begin", act="keep a document", may={"thing": n})
        self.clients.keep_thing("room", {"n": n}, name="hall")
        self.say("done", now={"thing": n})

    def keep_setting(self) -> None:
        n = str(self.rng.randrange(10**9))
        self.say("begin", act="keep a setting", may={"setting": n})
        self.library.keep_setting("coach", n)
        self.say("done", now={"setting": n})

    def keep_standard(self) -> None:
        n = self.rng.randrange(10**9)
        text = STANDARD.replace('name = "', f'name = "{n} ', 1)
        self.say("begin", act="keep a standard", may={"standard": text})
        OwnStandards(self.library).save(PUSHDOWN, text)
        self.say("done", now={"standard": text})

    def change(self) -> None:
        set_id, n = self.some(), self.rng.randrange(1000)
        self.say("begin", act="correct a set", may={f"load {set_id}": float(n)})
        self.library.change_set(set_id, load_kg=float(n))
        self.say("done", now={f"load {set_id}": float(n)})

    def split(self) -> None:
        set_id = self.some()
        if self.library.record(set_id).waits_for_landmarks:
            return
        bounds = [Correction("bounds", 0.0, 2.0), Correction("bounds", 2.0, 4.0)]
        self.say("begin", act="split", may={f"split {set_id}": True})
        ids = self.library.split_set(set_id, [SetPart(PUSHDOWN, SCHOOL, b) for b in bounds])
        now = {f"notes {i}": added(self.library.record(i).notes) for i in ids}
        record = self.library.record(set_id)
        key = record.clip_hash or record.track_hash
        self.say("done", now={**now, f"set {ids[1]}": key, f"review {set_id}": None})

    def erase(self) -> None:
        set_id = self.some()
        self.say("begin", act="erase", may={f"gone {set_id}": True})
        take_out(self.library, [set_id])
        forget_own(self.library)
        self.say("done", now={f"gone {set_id}": True})

    def out_and_back(self) -> None:
        set_id = self.some()
        # An undo that the next start finishes brings no review back: it is computed again.
        may = {f"gone {set_id}": True, f"review {set_id}": None}
        self.say("begin", act="take out and put back", may=may)
        take_back(self.library, take_out(self.library, [set_id]))
        self.say("done", now={})

    def bundle(self) -> None:
        """A set leaves as a file, is erased, and comes back with all that was done to it."""
        set_id = self.some()
        file = self.clip.with_name(f"{self.rng.randrange(10**9)}.zip")
        try:
            write_set(self.library, set_id, file)
            before = self.library.record(set_id)
            self.say(
                "begin",
                act="out as a file and in again",
                may={f"gone {set_id}": True, "more": True},
            )
            take_out(self.library, [set_id])
            forget_own(self.library)
            there, new = take_bundle(self.library, file)
            now: dict[str, Any] = {f"gone {set_id}": True}
            if new:  # of what was split alike twice another one is here, with what was said of that
                now[f"set {there}"] = before.clip_hash or before.track_hash
                now[f"notes {there}"] = added(before.notes)
            self.say("done", now=now)
        finally:
            file.unlink(missing_ok=True)

    def copy(self) -> None:
        self.say("begin", act="copy the library", may={})
        daily(self.library.folder, self.next_day())
        self.say("done", now={})

    def restore(self) -> None:
        """Bring back what was copied just now: the same as was there."""
        made = daily(self.library.folder, self.next_day())
        if made is None:
            return
        self.say("begin", act="bring a copy back", may={})
        bring_back(self.library.folder, made, date(2031, 1, 1))
        self.say("done", now={})


def looked_through(folder: Path, held: State, under_way: dict[str, Any] | None) -> list[str]:
    """What is not as it was said to be after the next start."""
    wrong = []
    library = Library.open(folder)
    try:
        finish_wanted(library)  # as the window does when it opens
        forget_taken_out(library)
        sets = ClipSets(library)
        resumed = 0  # clips that were copied whole come in now, with or without their source
        for coming in sets.folder.pending():
            with contextlib.suppress(BadInput):  # where its source is gone, it is forgotten
                resumed += sets.resume(coming)[1]
        may = (under_way or {}).get("may", {})
        ids = library.ids()
        gone = {int(k.split()[1]) for k in may if k.startswith("gone")}
        for key, value in held.items():
            what, _, name = key.partition(" ")
            if what in ("set", "notes", "review", "load") and int(name) not in ids:
                if int(name) not in gone:
                    wrong.append(f"{key} is gone")
                continue
            if key in may and may[key] == _found(library, key):
                continue
            if "more" in may and what in ("notes", "review", "load") and int(name) in gone:
                continue  # it was erased, and what comes in again may have its number
            loose = what in ("notes", "review", "load", "set") and (
                f"split {name}" in may or f"landmarks {name}" in may
            )
            if _found(library, key) != value and not loose:
                wrong.append(f"{key} is {str(_found(library, key))[:80]}, not {str(value)[:80]}")
        # Numbers are never used again: a set that nobody wrote has one that nobody said.
        more = len(set(ids) - {int(k.split()[1]) for k in held if k.startswith("set ")})
        if more - resumed > 2:
            wrong.append(f"{more} sets more than were written")
    finally:
        library.close()
    found = check(folder)
    wrong += found.wrong
    for place in ("coming", "erased", "unpacking", "clips/coming"):
        left = [p.name for p in (folder / place).glob("*")] if (folder / place).is_dir() else []
        wrong += [f"{place}/{name} is left" for name in left]
    wrong += [f"{p.name} is left" for p in folder.rglob("*.part")]
    with sqlite3.connect(folder / "library.sqlite") as db:
        unused = db.execute(
            "select count(*) from track t where not exists (select 1 from recorded_set s where"
            " s.track_hash = t.hash)"
        ).fetchone()[0]
        if unused:
            wrong.append(f"{unused} tracks that no set names")
        words = db.execute("select count(*) from words").fetchone()[0]
        sets_there = db.execute("select count(*) from recorded_set").fetchone()[0]
        if words != sets_there:
            wrong.append(f"{words} rows in the index of words for {sets_there} sets")
    db.close()
    return wrong


def _found(library: Library, key: str) -> Any:
    what, _, name = key.partition(" ")
    if what == "set":
        record = library.record(int(name))
        return record.clip_hash or record.track_hash
    if what == "notes":
        return plain(library.record(int(name)).notes)
    if what == "review":
        review = library.kept_review(int(name))
        return review["n"] if review else None
    if what == "load":
        return library.record(int(name)).load_kg
    if what == "client":
        return Clients(library).client(name).goals if name in library.clients() else None
    if what == "thing":
        kept = Clients(library).kept("room")
        return kept[0][2]["n"] if kept else None
    if what == "setting":
        return library.setting("coach")
    if what == "standard":
        return OwnStandards(library).texts().get(PUSHDOWN)
    return None


def held_after(folder: Path) -> State:
    """What stands in the library now, as the truth from which the next child goes on."""
    library = Library.open(folder)
    try:
        held: State = {}
        for set_id in library.ids():
            for what in ("set", "notes", "review", "load"):
                held[f"{what} {set_id}"] = _found(library, f"{what} {set_id}")
        for name in library.clients():
            if goals := _found(library, f"client {name}"):  # the bare name goes with the last set
                held[f"client {name}"] = goals
        for what in ("thing", "setting", "standard"):
            held[what] = _found(library, what)
        return held
    finally:
        library.close()


def told(lines: list[bytes], held: State) -> tuple[dict[str, Any] | None, str]:
    """Take what was said to be written into what is held; the write under way, and what it was."""
    under_way: dict[str, Any] | None = None
    for line in lines:
        try:
            said = json.loads(line)
        except ValueError:
            break  # cut off by the kill
        if said["kind"] == "begin":
            under_way = said
            continue
        for key, value in said["now"].items():
            if key.startswith("gone "):
                for what in ("set", "notes", "review", "load"):
                    held.pop(f"{what} {key.split()[1]}", None)
            else:
                held[key] = value
        under_way = None
    return under_way, under_way["act"] if under_way else "between two writes"


def main(kills: int) -> int:
    rng = random.Random(2031)
    broken: list[str] = []
    hit: Counter[str] = Counter()
    begun = time.monotonic()
    assert PUSHDOWN in shipped()
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place) / "library"
        Library.open(folder).close()
        clip = Path(place) / "clip.mp4"
        numbered_clip(clip, 12, size=(160, 120))
        held = held_after(folder)
        for n in range(kills):
            out_of, into = os.pipe()
            child = os.fork()
            if not child:
                os.close(out_of)
                try:
                    Writer(folder, clip, n, into).run()
                except BaseException as error:
                    os.write(into, json.dumps({"kind": "broke", "error": repr(error)}).encode())
                finally:
                    os._exit(1)
            os.close(into)
            time.sleep(rng.uniform(0.02, LONGEST_S))
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
            with os.fdopen(out_of, "rb") as said:
                lines = said.read().splitlines()
            if lines and b'"broke"' in lines[-1]:
                broken.append(f"kill {n}: the child broke: {lines.pop().decode()}")
            under_way, act = told(lines, held)
            hit[act] += 1
            try:
                broken += [
                    f"kill {n} in {act}: {what}" for what in looked_through(folder, held, under_way)
                ]
            except Exception as error:
                broken.append(f"kill {n} in {act}: the library does not open: {error!r}")
                break
            for made in clip.parent.glob("[0-9]*.*"):
                made.unlink()
            held = held_after(folder)
            for file in sorted((folder / "backups").glob("*"))[:-9]:
                file.unlink()
    for line in broken[:60]:
        print("BROKEN", line)
    print(", ".join(f"{act} {count}" for act, count in hit.most_common()))
    print(f"{kills} kills in {time.monotonic() - begun:.0f} s: {len(broken)} left something broken")
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main(harness.number(1, 1000)))
