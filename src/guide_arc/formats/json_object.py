"""A JSON object read from a file that anybody may have written."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from guide_arc.formats.errors import BadFile


def parsed_json(text: str, path: Path, **hooks: Any) -> Any:
    """What JSON text says. hooks : of `json.loads`. Raises BadFile with the place of the error."""
    try:
        return json.loads(text, **hooks)
    except json.JSONDecodeError as error:
        raise BadFile(
            f"this is not JSON ({error.msg})", path=path, line=error.lineno, column=str(error.colno)
        ) from None
    except BadFile:
        raise
    except (RecursionError, ValueError):
        raise BadFile(
            "this JSON is nested too deep or holds a number too long", path=path
        ) from None


def read_object(path: Path, what: str) -> dict[str, Any]:
    """The object that a file holds. what : what the file is, for the words. Raises BadFile with the
    place of the error."""
    try:
        text = path.read_bytes().decode("utf-8-sig")
    except OSError as error:
        reason = (error.strerror or "unreadable").lower()
        raise BadFile(f"the file can't be read ({reason})", path=path) from None
    except UnicodeDecodeError:
        raise BadFile("this is no text in UTF-8", path=path) from None
    document = parsed_json(text, path)
    if not isinstance(document, dict):
        raise BadFile("the file holds no JSON object", path=path, right=f"a {what} starts with {{")
    return document
