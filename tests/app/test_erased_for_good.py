"""After a client was erased and the program closed, neither name nor recording is left anywhere."""

from __future__ import annotations

import json
import tempfile
from collections.abc import Iterator
from dataclasses import asdict
from datetime import date
from pathlib import Path

import pytest
from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QMessageBox

from builders import filmed, slow
from clips import SmallFilm
from guide_arc.app.main import settings_at
from guide_arc.formats.track_file import write_track
from guide_arc.library import quarantine
from guide_arc.library.backups import daily
from guide_arc.library.batch import review_all
from guide_arc.library.clients import Clients
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.quarantine import quarantine_file
from guide_arc.library.store import Library
from guide_arc.library.taking_out import take_client_out
from hands import Hands, dialog_of, take_apart

NAME = "Zenobia Lark"


@pytest.fixture
def home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    """A home and a folder for what is temporary that are looked through afterwards."""
    for name in ("home", "tmp"):
        (tmp_path / name).mkdir()
    monkeypatch.setenv("HOME", str(tmp_path / "home"))
    for name in ("XDG_DATA_HOME", "XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_CACHE_HOME"):
        monkeypatch.setenv(name, str(tmp_path / "home" / name.lower()))
    monkeypatch.setenv("GUIDE_ARC_STATE", str(tmp_path / "home" / "state"))
    monkeypatch.setenv("TMPDIR", str(tmp_path / "tmp"))
    monkeypatch.setattr(tempfile, "tempdir", None)
    user = QSettings.Scope.UserScope
    for form in (QSettings.Format.NativeFormat, QSettings.Format.IniFormat):
        QSettings.setPath(form, user, str(tmp_path / "home" / "xdg_config_home"))
    yield tmp_path
    tempfile.tempdir = None


def holds(folder: Path, *what: bytes) -> list[str]:
    found = []
    for path in folder.rglob("*"):
        named = any(
            w.decode("latin-1").lower() in str(path.relative_to(folder)).lower() for w in what
        )
        if named or (path.is_file() and any(w in path.read_bytes() for w in what)):
            found.append(str(path.relative_to(folder)))
    return sorted(found)


def bytes_of(path: Path) -> bytes:
    data = path.read_bytes()
    return data[len(data) // 2 :][:200]


@slow
def test_nothing_of_an_erased_client_is_left(
    qtbot, home: Path, pushdown_film: SmallFilm, tmp_path_factory: pytest.TempPathFactory
):
    outside = tmp_path_factory.mktemp("outside")
    film = pushdown_film.clip.path
    write_track(filmed("rope-pushdown", reps=2).track, outside / "zenobia.csv")
    folder = home / "home" / "library"
    library = Library.open(folder)
    set_id, _ = library.add_set(
        (outside / "zenobia.csv").read_bytes(),
        "zenobia.csv",
        client=NAME,
        standard="rope-pushdown",
        school="locked",
    )
    library.add_set(
        (outside / "zenobia.csv").read_bytes().replace(b"# view", b"# who: other\n# view", 1),
        "ada.csv",
        client="Ada Quill",
        standard="rope-pushdown",
        school="locked",
    )
    review_all(library)
    clips = ClipSets(library)
    details = ClipDetails(NAME, "rope-pushdown", "locked", "left")
    clip_set, _ = clips.add(film, details)
    kept = clips.clip(clip_set)
    assert kept is not None
    clips.folder.make_proxy(kept)
    # A copy that a kill cut off, a bundle that it left unpacked, and a file that could not come in.
    coming = clips.folder.coming
    coming.mkdir(exist_ok=True)
    (coming / "k.json").write_text(json.dumps({"source": str(film), "details": asdict(details)}))
    (coming / "k.part").write_bytes(film.read_bytes()[:-50])
    (folder / "unpacking" / "set-x").mkdir(parents=True)
    (folder / "unpacking" / "set-x" / "set.json").write_text(NAME)
    (outside / "zenobia-bad.csv").write_text("nothing")
    quarantine_file(library, outside / "zenobia-bad.csv", "zenobia-bad.csv: it is no track")
    Clients(library).keep_thing("cue", {"check": "x", "words": "for Zenobia"}, client=NAME)
    library.keep_notes(set_id, library.record(set_id).notes)
    daily(folder, date(2031, 5, 1))
    traces = (
        b"Zenobia",
        b"zenobia",
        bytes_of(film),
        (library.record(set_id).track_hash or "").encode(),
        (library.record(clip_set).clip_hash or "").encode(),
    )
    library.close()
    assert holds(home, *traces)

    settings = settings_at(folder)
    settings.setValue("folder", str(home / "home" / "clients" / "Zenobia Lark"))
    settings.setValue("pages", str(home / "home" / "clients"))
    dialogs = QSettings(QSettings.Scope.UserScope, "QtProject")
    dialogs.setValue("FileDialog/history", [f"file://{home}/zenobia-lark", f"file://{home}/ada"])
    dialogs.setValue("FileDialog/lastVisited", f"file://{home}/Zenobia Lark")
    dialogs.sync()
    window = Hands(folder, settings)
    window.program.drop_folder.choose(str(home / "home" / "zenobia_lark"))
    window.open_set(set_id)
    window.do("go.clients")
    window.of("clients").model.choose(NAME)
    window.settle()
    window.shell.actions_by_id["clients.erase"].trigger()
    box = dialog_of(window, QMessageBox)
    next(b for b in box.buttons() if "Erase" in b.text()).click()
    window.settle()
    assert window.program.library.library.clients() == ["Ada Quill"]
    take_apart(window)
    assert holds(home, *traces) == []
    again = Library.open(folder)
    assert again.clients() == ["Ada Quill"]
    assert again.setting("drop-folder") == ""
    assert settings_at(folder).value("pages") == str(home / "home" / "clients")
    assert QSettings(QSettings.Scope.UserScope, "QtProject").value("FileDialog/history") in (
        f"file://{home}/ada",
        [f"file://{home}/ada"],
    )
    assert quarantine.all_quarantined(again) == []
    again.close()


def test_what_a_killed_erasing_left_goes_at_the_next_start(qapp, home: Path, settings: QSettings):
    folder = home / "home" / "library"
    library = Library.open(folder)
    write_track(filmed("rope-pushdown", reps=2).track, home / "in.csv")
    library.add_set(
        (home / "in.csv").read_bytes(),
        "in.csv",
        client=NAME,
        standard="rope-pushdown",
        school="locked",
    )
    (home / "in.csv").unlink()
    daily(folder, date(2031, 5, 1))
    take_client_out(library, NAME)
    library.close()  # without forgetting: as where the program was killed
    assert holds(folder, b"Zenobia")
    window = Hands(folder, settings)
    take_apart(window)
    assert holds(folder, b"Zenobia") == []
