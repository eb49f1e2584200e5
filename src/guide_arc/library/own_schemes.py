"""A coach's own schemes of sets and reps: the library's `schemes.toml`, over those that ship."""

from __future__ import annotations

import tomllib
from typing import Any

import tomli_w

from guide_arc.core.model.errors import BadInput
from guide_arc.formats.atomic import write_atomic
from guide_arc.library.store import Library
from guide_arc.standards.schemes import parse_schemes

_FILE = "schemes.toml"


def own_text(library: Library) -> str:
    """The file as it is; empty if there is none."""
    path = library.folder / _FILE
    try:
        return path.read_text(encoding="utf-8") if path.exists() else ""
    except (OSError, UnicodeDecodeError) as error:
        raise BadInput(f"{_FILE}: the file can't be read ({error})") from None


def keep_scheme(library: Library, id: str, fields: dict[str, Any]) -> str:
    """Keep a scheme under an id, in place of one of the same id; the file's text before it.

    Raises BadInput with the field that no scheme may have, and writes nothing then.
    """
    before = own_text(library)
    parse_schemes(before, _FILE)
    after = tomli_w.dumps({**tomllib.loads(before), id: fields})
    parse_schemes(after, _FILE)
    put_back(library, after)
    return before


def put_back(library: Library, text: str) -> None:
    """The file as it was; an empty text takes it away."""
    path = library.folder / _FILE
    if text:
        write_atomic(path, text.encode(), like_folder=True)
    else:
        path.unlink(missing_ok=True)
