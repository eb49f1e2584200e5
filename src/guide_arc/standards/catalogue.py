"""The standards that ship, with a coach's own over them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.standard import Standard
from guide_arc.standards.loader import build, parse_toml, shipped
from guide_arc.standards.loader import standard as shipped_standard


class Catalogue:
    """Every standard by id. A coach's own file replaces the shipped one of the same id.

    own : the coach's files' texts by id; a file that can't be used leaves the shipped one in place
    and is reported in `problems`"""

    def __init__(self, own: Mapping[str, str] | None = None) -> None:
        self._raw = dict(shipped())
        self._own: dict[str, dict[str, Any]] = {}
        self.problems: dict[str, str] = {}
        self._built: dict[tuple[str, str | None], Standard] = {}
        for id, text in (own or {}).items():
            name = f"{id}.toml"
            try:
                raw = parse_toml(text, name)
                for school in build(raw, name).schools:
                    build(raw, name, school.id)
                if raw["id"] != id:
                    raise BadInput(
                        f"{name}: id: it is {raw['id']!r}; it must be {id!r}, as its file is named."
                    )
            except BadInput as error:
                self.problems[id] = str(error)
                continue
            self._own[id] = raw
            self._raw[id] = raw

    def ids(self) -> tuple[str, ...]:
        """All ids: those that ship in their order, then the coach's own."""
        return tuple(self._raw)

    def __contains__(self, id: object) -> bool:
        return id in self._raw

    def standard(self, id: str, school: str | None = None) -> Standard:
        """As `loader.standard`. Raises BadInput for an unknown id or school."""
        if id not in self._raw:
            raise BadInput(f"there is no standard {id!r}{did_you_mean(id, self._raw)}")
        if id not in self._own:
            return shipped_standard(id, school)
        key = (id, school)
        if key not in self._built:
            self._built[key] = build(self._raw[id], f"{id}.toml", school)
        return self._built[key]

    def raw(self, id: str) -> dict[str, Any]:
        """The keys of a standard's file."""
        return self._raw[id]

    def name(self, id: str) -> str:
        """A standard's name, without reading the rest of it; the id if there is none of it."""
        return str(self._raw[id]["name"]) if id in self._raw else id

    def is_own(self, id: str) -> bool:
        return id in self._own

    def overrides(self, id: str) -> bool:
        """Whether it is the coach's own in the place of one that ships."""
        return id in self._own and id in shipped()

    def every_school(self) -> list[Standard]:
        """Each standard as each of its schools sees it."""
        return [self.standard(id, s.id) for id in self.ids() for s in self.standard(id).schools]
