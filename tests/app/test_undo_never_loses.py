"""Two windows and a command line do what coaches do, and undo it, in any order; nothing is ever
lost or mixed up."""

from __future__ import annotations

import os
import shutil
import tempfile
from pathlib import Path

from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule

from clips import numbered_clip
from undo_world import NAMES, World

_windows = st.integers(0, 1)
_names = st.sampled_from(NAMES)
_any = st.integers(0, 10**6)


def _clip() -> Path:
    path = Path(tempfile.gettempdir()) / "guide-arc-small-clip.mp4"
    if not path.exists():
        numbered_clip(path, 8)
    return path


class UndoMachine(RuleBasedStateMachine):
    """Every rule is one step of somebody's; the world compares every row and file after it."""

    def __init__(self) -> None:
        super().__init__()
        self.base = Path(tempfile.mkdtemp(prefix="undo-"))
        self.world = World(self.base / "library", _clip())

    def teardown(self) -> None:
        try:
            self.world.close_all()
        finally:
            shutil.rmtree(self.base, ignore_errors=True)

    def _set(self, pick: int) -> int:
        sets = self.world.sets
        return sets[pick % len(sets)]

    def _name(self, pick: int) -> str:
        names = self.world.names
        return names[pick % len(names)]

    has_sets = precondition(lambda self: bool(self.world.sets))
    has_clients = precondition(lambda self: bool(self.world.names))

    @rule(window=_windows, name=_names, again=st.booleans())
    def add(self, window: int, name: str, again: bool) -> None:
        self.world.add(self.world.windows[window], name, again=again)

    @rule(window=_windows, name=_names)
    def add_clip(self, window: int, name: str) -> None:
        self.world.add_clip(self.world.windows[window], name)

    @rule(name=_names)
    def command_line_adds(self, name: str) -> None:
        self.world.command_line_adds(name)

    @has_sets
    @rule(pick=_any)
    def command_line_erases(self, pick: int) -> None:
        self.world.command_line_erases(self._set(pick))

    @has_sets
    @rule(window=_windows, pick=_any)
    def erase_set(self, window: int, pick: int) -> None:
        self.world.erase_set(self.world.windows[window], self._set(pick))

    @has_clients
    @rule(window=_windows, pick=_any)
    def erase_client(self, window: int, pick: int) -> None:
        self.world.erase_client(self.world.windows[window], self._name(pick))

    @rule(window=_windows, name=_names)
    def make_client(self, window: int, name: str) -> None:
        if name not in self.world.names:
            self.world.make_client(self.world.windows[window], name)

    @has_clients
    @rule(window=_windows, pick=_any, goals=st.sampled_from(("strength", "size", "stage")))
    def know(self, window: int, pick: int, goals: str) -> None:
        self.world.know(self.world.windows[window], self._name(pick), goals)

    @has_clients
    @rule(window=_windows, pick=_any, into=_any)
    def join(self, window: int, pick: int, into: int) -> None:
        # Another window's steps on a plan name its client: whose plan it was is not known any more
        # after a joining.
        if self._name(pick) != self._name(into) and not self.world.has_plan(self._name(pick)):
            self.world.join(self.world.windows[window], self._name(pick), self._name(into))

    @has_clients
    @rule(window=_windows, pick=_any, words=st.sampled_from(("ribs down", "stand tall")))
    def say_words(self, window: int, pick: int, words: str) -> None:
        self.world.say_words(self.world.windows[window], self._name(pick), words)

    @has_sets
    @rule(window=_windows, pick=_any, name=_names, load=st.sampled_from((None, 20.0, 22.5)))
    def correct(self, window: int, pick: int, name: str, load: float | None) -> None:
        self.world.correct(self.world.windows[window], self._set(pick), name, load)

    @has_sets
    @rule(
        window=_windows,
        pick=_any,
        choice=st.sampled_from(("keep", "drop")),
        check=st.sampled_from("ab"),
    )
    def decide(self, window: int, pick: int, choice: str, check: str) -> None:
        self.world.decide(self.world.windows[window], self._set(pick), f"{check}/left", choice)

    @has_sets
    @rule(window=_windows, pick=_any)
    def review(self, window: int, pick: int) -> None:
        self.world.review(self.world.windows[window], self._set(pick))

    @has_sets
    @rule(pick=_any)
    def keep_review(self, pick: int) -> None:
        self.world.keep_review(self._set(pick))

    @has_sets
    @rule(window=_windows, pick=_any)
    def follow_up(self, window: int, pick: int) -> None:
        self.world.follow_up(self.world.windows[window], self._set(pick))

    @has_clients
    @rule(window=_windows, pick=_any, day=st.integers(0, 5))
    def plan(self, window: int, pick: int, day: int) -> None:
        self.world.plan(self.world.windows[window], self._name(pick), day)

    @has_sets
    @rule(window=_windows, pick=_any)
    def split(self, window: int, pick: int) -> None:
        self.world.split(self.world.windows[window], self._set(pick))

    @has_sets
    @rule(window=_windows, pick=_any, main=_any)
    def second_view(self, window: int, pick: int, main: int) -> None:
        self.world.second_view(self.world.windows[window], self._set(pick), self._set(main))

    @has_sets
    @rule(window=_windows, pick=_any, x=st.floats(1, 90))
    def mark(self, window: int, pick: int, x: float) -> None:
        set_id = self._set(pick)
        if self.world.expected["recorded_set", (set_id,)]["clip_hash"]:
            self.world.mark(self.world.windows[window], set_id, x)

    @rule(window=_windows, times=st.integers(1, 3))
    def undo(self, window: int, times: int) -> None:
        for _ in range(times):
            self.world.move(self.world.windows[window], "undo")

    @rule(window=_windows)
    def redo(self, window: int) -> None:
        self.world.move(self.world.windows[window], "redo")

    @rule(window=_windows)
    def reopen(self, window: int) -> None:
        self.world.reopen(window)

    @rule()
    def copy(self) -> None:
        self.world.copy()

    @precondition(lambda self: bool(self.world.copies))
    @rule(window=_windows, pick=_any)
    def restore(self, window: int, pick: int) -> None:
        paths = sorted(p for p in self.world.copies if p.exists())
        if paths:
            self.world.restore(self.world.windows[window], paths[pick % len(paths)])

    @invariant()
    def nothing_broke(self) -> None:
        self.world.check()


# The same steps at every run; `bench/undo.py` has other ones each time, and many more.
TestUndo = UndoMachine.TestCase
TestUndo.settings = settings(
    max_examples=20 if os.environ.get("GUIDE_ARC_EVERY_CASE") else 5,
    stateful_step_count=25,
    derandomize=True,
    database=None,
    deadline=None,
    suppress_health_check=list(HealthCheck),
)
