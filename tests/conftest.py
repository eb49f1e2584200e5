"""What all tests share: simulated sets, a library in a folder of its own, a real window."""

from __future__ import annotations

import gc
import hashlib
import io
import itertools
import os
import pickle
from collections.abc import Callable, Iterator
from pathlib import Path
from types import MappingProxyType
from typing import Any

import pytest
from PyQt6.QtCore import QSettings

from builders import filmed, measured_set
from clips import SmallFilm, usual_film
from guide_arc.app.look.theme import load_fonts
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_with_body
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.formats.track_csv import csv_text
from guide_arc.library import reviewing
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from hands import Hands, take_apart

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# The tests are the same whether the pose extra is there or not.
os.environ.pop("GUIDE_ARC_POSE_PYTHON", None)


# Going through all that the tests hold takes as long as a small test.
WINDOWS_A_COLLECTION = 8
_windows = itertools.count()


@pytest.fixture(scope="session")
def curl() -> ShownSet:
    """Ten curls in space; the upper arm comes 24 degrees forward from rep 6."""
    return measured_set(
        "standing-barbell-curl", reps=10, faults={"upper-arm-drift": 24.0}, fault_from=6
    )


@pytest.fixture(scope="session")
def front_raise_alternating() -> ShownSet:
    return measured_set("front-raise-midline", reps=4, arms="alternating")


@pytest.fixture(scope="session")
def raise_from_the_front() -> ShownSet:
    return measured_set("lateral-raise-dumbbell", reps=6, view="front", noise=1.5)


@pytest.fixture(scope="session")
def pushdown_film(tmp_path_factory: pytest.TempPathFactory) -> SmallFilm:
    """Two rope pushdowns filmed from the left, with their truth."""
    return usual_film(tmp_path_factory.mktemp("film"))


class _Pickler(pickle.Pickler):
    """Writes read-only mappings as what they hold."""

    def reducer_override(self, value: object) -> Any:
        if isinstance(value, MappingProxyType):
            return dict, (dict(value),)
        return NotImplemented


def _digest(value: object) -> bytes:
    written = io.BytesIO()
    _Pickler(written).dump(value)
    return hashlib.sha256(written.getbuffer()).digest()


@pytest.fixture(scope="session", autouse=True)
def _each_recording_is_reviewed_once() -> Iterator[None]:
    """A review depends on its arguments alone, so windows that open the same recording share it."""
    done: dict[bytes, Any] = {}
    review: Callable[..., Any] = review_with_body

    def shared(track: LandmarkTrack, *given: Any, progress: Any = None, **named: Any) -> Any:
        key = _digest((track, given, sorted(named.items())))
        if key not in done:
            done[key] = review(track, *given, progress=progress, **named)
        elif progress is not None:
            progress(1.0)
        return done[key]

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(reviewing, "review_with_body", shared)
        yield


@pytest.fixture
def library(tmp_path: Path) -> Iterator[Library]:
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


@pytest.fixture(scope="session")
def _states(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Path]:
    """Folders that tests may fill, made only once one does."""
    base = tmp_path_factory.mktemp("states")
    return (base / str(i) for i in itertools.count())


@pytest.fixture(autouse=True)
def _state_of_its_own(_states: Iterator[Path], monkeypatch: pytest.MonkeyPatch) -> None:
    """The log of a test's window stays with the test."""
    monkeypatch.setenv("GUIDE_ARC_STATE", str(next(_states)))


AddSet = Callable[..., int]


def adder(library: Library) -> AddSet:
    """A function that adds a simulated set to a library and reviews it; returns its id."""

    def add(
        client: str = "Ada Quill", standard: str = "standing-barbell-curl", **script: Any
    ) -> int:
        track = filmed(standard, **script).track
        set_id, _new = library.add_set(
            csv_text(track).encode(),
            f"{client.split(maxsplit=1)[0].lower()}.csv",
            client=client,
            standard=standard,
            school=str(script.get("school") or _first_school(standard)),
        )
        review_and_keep(library, set_id, track)
        return set_id

    return add


@pytest.fixture
def add_set(library: Library) -> AddSet:
    return adder(library)


def _first_school(standard: str) -> str:
    from guide_arc.standards.loader import standard as by_id

    return by_id(standard).school.id


@pytest.fixture
def settings(tmp_path: Path) -> QSettings:
    return QSettings(str(tmp_path / "window.ini"), QSettings.Format.IniFormat)


@pytest.fixture
def open_window(qtbot, library: Library, settings: QSettings) -> Iterator[Callable[..., Hands]]:
    """Opens the real window on the test's library, and leaves nothing of it behind."""
    load_fonts()
    opened: list[Hands] = []

    def open_(*more: object) -> Hands:
        window = Hands(library.folder, settings, *more)  # type: ignore[arg-type]
        opened.append(window)
        return window

    yield open_
    for window in opened:
        take_apart(window)
    opened.clear()
    if next(_windows) % WINDOWS_A_COLLECTION == 0:
        gc.collect()


@pytest.fixture
def window(open_window: Callable[..., Hands]) -> Hands:
    """One window on the library, where a test's file sets no other up."""
    return open_window()


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The longest first, so that no worker is left alone with one at the end."""
    items.sort(key=lambda item: Path(item.fspath).name != "test_project.py")


def pytest_collection_finish() -> None:
    """Tests and modules stay to the end: the collection after each window need not look at them."""
    gc.collect()
    gc.freeze()
