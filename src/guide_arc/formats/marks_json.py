"""Marked points of a clip as JSON (formats.md, section 5)."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from guide_arc.core.model.errors import did_you_mean
from guide_arc.core.model.marks import MARKABLE, Mark, Marks
from guide_arc.core.model.track import StatedView
from guide_arc.formats.errors import BadFile
from guide_arc.formats.json_object import read_object

Pixels = Annotated[float, Field(ge=-20000, le=20000, allow_inf_nan=False)]


class _MarkForm(BaseModel):
    model_config = ConfigDict(extra="forbid")
    frame: int = Field(ge=0, le=10_000_000)
    point: str
    x: Pixels
    y: Pixels


class _MarksForm(BaseModel):
    model_config = ConfigDict(extra="forbid")
    marks: list[_MarkForm] = Field(min_length=1, max_length=100_000)


def read_marks(path: Path, view: StatedView, frames: int, size: tuple[int, int]) -> Marks:
    """Marks from their file, for a clip of so many frames and so large. Raises BadFile with what is
    wrong."""
    document = read_object(path, "file of marks")
    try:
        form = _MarksForm.model_validate(document)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(step) for step in first["loc"])
        raise BadFile(
            f"{where or 'marks'}: {first['msg'][:1].lower()}{first['msg'][1:]}", path=path
        ) from None
    out = Marks(view)
    for i, mark in enumerate(form.marks):
        if mark.point not in MARKABLE:
            raise BadFile(
                f"marks.{i}.point: there is no point"
                f" {mark.point!r}{did_you_mean(mark.point, MARKABLE)}",
                path=path,
            )
        if mark.frame >= frames:
            raise BadFile(
                f"marks.{i}.frame is {mark.frame}; the clip's last frame is {frames - 1}", path=path
            )
        if not (0 <= mark.x <= size[0] and 0 <= mark.y <= size[1]):
            raise BadFile(
                f"marks.{i} lies at {mark.x:g}, {mark.y:g}; the picture is {size[0]} by {size[1]}",
                path=path,
            )
        out = out.with_mark(mark.point, Mark(mark.frame, mark.x, mark.y))
    return out
