"""The coach's own standards: one file each in the library's folder, and which schools are
preferred."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path

from guide_arc.core.model.errors import BadInput
from guide_arc.formats.atomic import make_folder, write_atomic
from guide_arc.library.store import Library
from guide_arc.library.stored_json import stored
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.loader import shipped
from guide_arc.standards.schools import Preference

_PREFERENCES = "preferred-schools"


class OwnStandards:
    """The folder `standards` of a library. Files put there by hand count as well."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self.folder = library.folder / "standards"
        self._stamp: tuple[object, ...] | None = None
        self._kept = Catalogue()

    def texts(self) -> dict[str, str]:
        """Each file's text by its id; a file that is no text, or can't be read, is left for
        `catalogue` to name."""
        return {p.stem: _text(p) for p in self._files()}

    def _files(self) -> list[Path]:
        if not self.folder.is_dir():
            return []
        return sorted((p for p in self.folder.glob("*.toml") if p.is_file()), key=lambda p: p.stem)

    def catalogue(self) -> Catalogue:
        """What ships with the coach's own over it, read again when a file has changed."""
        stamp = tuple((p.name, p.stat().st_mtime_ns, p.stat().st_size) for p in self._files())
        if stamp != self._stamp:
            self._kept, self._stamp = Catalogue(self.texts()), stamp
        return self._kept

    def save(self, id: str, text: str) -> None:
        """Save a standard's file atomically.

        Raises BadInput for a text that is no standard of this id.
        """
        trial = Catalogue({id: text})
        if id in trial.problems:
            raise BadInput(trial.problems[id])
        make_folder(self.folder)
        write_atomic(self.folder / f"{id}.toml", text.encode(), like_folder=True)

    def remove(self, id: str) -> None:
        """Take an own standard out; the shipped one of its id applies again.

        Raises BadInput if sets would be left without a standard.
        """
        if id not in shipped():
            used = self._library.count_of_standard(id)
            if used:
                sets = "1 set follows" if used == 1 else f"{used} sets follow"
                raise BadInput(
                    f"{sets} this standard; choose another for {'it' if used == 1 else 'them'}"
                    " first."
                )
        (self.folder / f"{id}.toml").unlink(missing_ok=True)

    def preferences(self) -> tuple[Preference, ...]:
        """Which schools the coach prefers, for whom and where."""
        return _from(self._library.setting(_PREFERENCES))

    def keep_preferences(self, preferences: tuple[Preference, ...]) -> None:
        self._library.keep_setting(_PREFERENCES, _text_of(preferences))

    def change_preferences(
        self, change: Callable[[tuple[Preference, ...]], tuple[Preference, ...]]
    ) -> None:
        """Change their present state, including what another window changed meanwhile."""
        self._library.change_setting(_PREFERENCES, lambda text: _text_of(change(_from(text))))


def _from(text: str) -> tuple[Preference, ...]:
    return tuple(Preference(**p) for p in stored(text, list))


def _text_of(preferences: tuple[Preference, ...]) -> str:
    rows = [
        {
            k: v
            for k, v in (("school", p.school), ("client", p.client), ("standard", p.standard))
            if v
        }
        for p in preferences
    ]
    return json.dumps(rows)


def _text(file: Path) -> str:
    try:
        return file.read_text(encoding="utf-8", errors="replace")
    except OSError as error:
        return f"the file can't be read ({error.strerror})"
