"""Two windows and a command line do and undo things at random; every row and file is compared after
each step.

`./run dev python bench/undo.py [STEPS] [KILLS]`: so many steps, and so many kills (SIGKILL) between
them. The steps and what must be there after each are those of `tests/undo_world.py`. After a kill
the library is opened as the window opens it: the step that was under way must have happened whole
or not at all.
"""

from __future__ import annotations

import contextlib
import os
import pickle
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

from clips import numbered_clip
from guide_arc.core.model.errors import BadInput
from guide_arc.library.clip_sets import ClipSets
from guide_arc.library.store import Library
from guide_arc.library.taking_out import forget_taken_out
from guide_arc.library.undoing import finish_wanted
from undo_world import NAMES, Rows, Window, World, changed, rows_in

STEPS_A_WORLD = 300
SECONDS_TO_A_KILL = (0.1, 2.0)


class Hands:
    """Random steps on a world, each as likely as it is in the tests' state machine."""

    def __init__(self, world: World, rng: random.Random, *, restores: bool = True) -> None:
        """restores: whether copies are brought back; recordings that a copy does not name stay
        then"""
        self.world, self.rng, self.restores = world, rng, restores
        self.done: Counter[str] = Counter()

    def step(self) -> None:
        name, act = self.rng.choice(self._steps())
        act()
        self.done[name] += 1

    def _steps(self) -> list[tuple[str, Callable[[], None]]]:
        world, rng = self.world, self.rng
        window = rng.choice(world.windows)
        sets, names = world.sets, world.names
        steps: list[tuple[str, Callable[[], None]]] = [
            ("add", lambda: world.add(window, rng.choice(NAMES), again=rng.random() < 0.4)),
            ("add a clip", lambda: world.add_clip(window, rng.choice(NAMES))),
            ("command adds", lambda: world.command_line_adds(rng.choice(NAMES))),
            ("reopen", lambda: world.reopen(rng.randrange(2))),
            ("copy", world.copy),
            *[("undo", lambda: self._undo(window))] * 6,
            *[("redo", lambda: world.move(window, "redo"))] * 3,
        ]
        free = [n for n in NAMES if n not in names]
        if free:
            steps.append(("new client", lambda: world.make_client(window, rng.choice(free))))
        copies = [p for p in world.copies if p.exists()]
        if copies and self.restores and rng.random() < 0.3:
            steps.append(("restore", lambda: world.restore(window, rng.choice(copies))))
        if names:
            name = rng.choice(names)
            steps += [
                ("erase a client", lambda: world.erase_client(window, name)),
                (
                    "what is known",
                    lambda: world.know(window, name, rng.choice(("strength", "size"))),
                ),
                ("own words", lambda: world.say_words(window, name, rng.choice(("tall", "down")))),
                ("plan", lambda: world.plan(window, name, rng.randrange(6))),
            ]
            others = [n for n in names if n != name]
            if others and not world.has_plan(name):
                steps.append(("join", lambda: world.join(window, name, rng.choice(others))))
        if sets:
            set_id, other = rng.choice(sets), rng.choice(sets)
            load = rng.choice((None, 20.0, 22.5))
            steps += [
                ("erase a set", lambda: world.erase_set(window, set_id)),
                ("command erases", lambda: world.command_line_erases(set_id)),
                ("correct", lambda: world.correct(window, set_id, rng.choice(NAMES), load)),
                (
                    "decide",
                    lambda: world.decide(
                        window, set_id, rng.choice("ab") + "/left", rng.choice(("keep", "drop"))
                    ),
                ),
                ("review", lambda: world.review(window, set_id)),
                ("keep a review", lambda: world.keep_review(set_id)),
                ("follow up", lambda: world.follow_up(window, set_id)),
                ("split", lambda: world.split(window, set_id)),
                ("second view", lambda: world.second_view(window, set_id, other)),
            ]
            if world.expected["recorded_set", (set_id,)]["clip_hash"]:
                steps.append(("mark", lambda: world.mark(window, set_id, rng.uniform(1, 90))))
        return steps

    def _undo(self, window: Window) -> None:
        for _ in range(self.rng.randint(1, 3)):
            self.world.move(window, "undo")


def steps_without_kills(count: int, seed: int) -> Counter[str]:
    """So many steps, in one library after another. Raises AssertionError where something is not as
    it must be."""
    done: Counter[str] = Counter()
    while done.total() < count:
        rng = random.Random(f"{seed}/{done.total()}")
        base = Path(tempfile.mkdtemp(prefix="undo-"))
        try:
            hands = Hands(World(base / "library", _clip(base)), rng)
            for _ in range(min(STEPS_A_WORLD, count - done.total())):
                hands.step()
            hands.world.close_all()
            done += hands.done
        except BaseException:
            print(f"seed {seed}, after {done.total()} steps: {base}", file=sys.stderr)
            raise
        shutil.rmtree(base)
    return done


def _clip(base: Path) -> Path:
    return numbered_clip(base / "small.mp4", 8)


# Kills


def work_until_killed(base: Path, seed: int) -> None:
    """A process that is killed: it says before each step what must be there after it, and after
    each what is there."""
    world = World(base / "library", base / "small.mp4")
    world.numbered_from(seed)
    rng = random.Random(seed)
    hands = Hands(world, rng, restores=False)

    def say(step: str, want: Rows | None) -> None:
        part = base / "journal.part"
        part.write_bytes(pickle.dumps((step, world.expected, want)))
        part.replace(base / "journal")

    world.journal = say
    while True:
        say("some step", None)
        hands.step()
        say("between two steps", world.expected)


def kill_once(base: Path, rng: random.Random) -> tuple[str, list[str]]:
    """Let a process work, kill it, and look at what is left; the step that was under way, and what
    is wrong."""
    (base / "journal").unlink(missing_ok=True)
    command = [sys.executable, __file__, "work", str(base), str(rng.randrange(10**9))]
    worker = subprocess.Popen(command, stderr=subprocess.PIPE)
    while not (base / "journal").exists():
        if worker.poll() is not None:
            return "start", [worker.stderr.read().decode()[-900:] if worker.stderr else "it ended"]
        time.sleep(0.01)
    time.sleep(rng.uniform(*SECONDS_TO_A_KILL))
    if worker.poll() is not None:
        return "a step", [worker.stderr.read().decode()[-500:] if worker.stderr else "it ended"]
    os.kill(worker.pid, signal.SIGKILL)
    worker.wait()
    step, before, want = pickle.loads((base / "journal").read_bytes())
    wrong: list[str] = []
    # As the next start opens it: what an undo asked for comes back, then what no undo can ask for
    # goes.
    library = Library.open(base / "library")
    finish_wanted(library)
    forget_taken_out(library)
    sets = ClipSets(library)
    for coming in sets.folder.pending():  # a clip whose adding was cut off
        with contextlib.suppress(BadInput):
            sets.resume(coming)
    library.close()
    there = rows_in(base / "library")
    if want is not None and there not in (before, want):
        wrong.append(
            f"{step}: neither as before nor as after it: {changed(before, there)[:2]}"
            f" {changed(want, there)[:2]}"
        )
    wrong += _files_wrong(base / "library", there)
    return step, wrong


def _files_wrong(folder: Path, rows: Rows) -> list[str]:
    world = World.__new__(World)
    world.folder, world.expected, world.windows, world.unlisted = folder, rows, [], set()
    try:
        world.check()
    except AssertionError as error:
        return [str(error)]
    return []


def kills(count: int, seed: int) -> tuple[Counter[str], list[str]]:
    rng = random.Random(seed)
    under_way: Counter[str] = Counter()
    wrong: list[str] = []
    base = Path(tempfile.mkdtemp(prefix="undo-kills-"))
    _clip(base)
    for _ in range(count):
        step, found = kill_once(base, rng)
        under_way[step] += 1
        wrong += found
    shutil.rmtree(base, ignore_errors=True)
    return under_way, wrong


def main(arguments: list[str]) -> Any:
    if arguments[:1] == ["work"]:
        return work_until_killed(Path(arguments[1]), int(arguments[2]))
    steps, count, seed = [int(a) for a in (*arguments, *("100000", "200", "1")[len(arguments) :])]
    began = time.perf_counter()
    done = steps_without_kills(steps, seed)
    print(
        f"{done.total()} steps in {time.perf_counter() - began:.0f} s, nothing lost, nothing mixed"
    )
    print("  " + ", ".join(f"{name} {n}" for name, n in done.most_common()))
    began = time.perf_counter()
    under_way, wrong = kills(count, seed)
    print(
        f"{under_way.total()} kills in {time.perf_counter() - began:.0f} s, {len(wrong)} left"
        " something wrong"
    )
    print("  " + ", ".join(f"{name} {n}" for name, n in under_way.most_common()))
    for words in wrong:
        print(f"  {words}")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
