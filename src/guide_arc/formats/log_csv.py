"""A training log as a table: `date, exercise, weight, reps, sets, reserve, note`, a row for sets
that were alike. Columns may have any order, and be separated by commas, semicolons or tabs."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Sequence
from datetime import date
from itertools import groupby
from typing import Final

from guide_arc.core.model.errors import BadInput
from guide_arc.core.planning.training_log import MOST_SETS, LoggedSet, Named, named_by, set_typed
from guide_arc.formats.csv_cells import text_cell
from guide_arc.formats.errors import BadFile

HEAD: Final = ("date", "exercise", "weight", "reps", "sets", "reserve", "note")
_NEEDED: Final = ("date", "exercise", "reps")
# Other names that people give the columns.
_ALSO: Final = {
    "day": "date",
    "load": "weight",
    "load_kg": "weight",
    "kg": "weight",
    "weight_kg": "weight",
    "standard": "exercise",
    "name": "exercise",
    "rir": "reserve",
    "in_reserve": "reserve",
    "notes": "note",
    "felt": "note",
}


def log_table(sets: Iterable[LoggedSet], name_of: Callable[[str], str]) -> str:
    """Sets as such a table."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(HEAD)
    for one, alike in groupby(sets):
        reps = f"{one.left_reps}"
        if one.right_reps != one.left_reps:
            reps += f"/{one.right_reps}"
        told = [*(["pain"] if one.pain and not one.felt else []), *one.felt]
        writer.writerow(
            [
                one.on.isoformat(),
                text_cell(name_of(one.standard)),
                "" if one.load_kg is None else f"{one.load_kg:g}",
                reps,
                len(list(alike)),
                "" if one.in_reserve is None else one.in_reserve,
                text_cell("; ".join(told)),
            ]
        )
    return out.getvalue()


def read_table(text: str, file: str, offered: Sequence[Named]) -> tuple[LoggedSet, ...]:
    """The sets of such a table. Raises BadFile with the line, and what would be right."""
    lines = text.lstrip("\ufeff").splitlines()
    if not lines:
        raise BadFile("the file is empty", path=file, right=f"its first line is {', '.join(HEAD)}")
    sign = max(",;\t", key=lines[0].count)
    rows = list(csv.reader(lines, delimiter=sign))
    head = [_ALSO.get(cell.strip().lower(), cell.strip().lower()) for cell in rows[0]]
    missing = [name for name in _NEEDED if name not in head]
    if missing:
        raise BadFile(
            f"there is no column “{missing[0]}”",
            path=file,
            line=1,
            right=f"the columns are {', '.join(HEAD)}",
        )
    out: list[LoggedSet] = []
    for number, row in enumerate(rows[1:], 2):
        cells = dict(zip(head, (cell.strip() for cell in row), strict=False))
        if any(cells.values()):
            try:
                out += _sets_of(cells, offered)
            except BadInput as error:
                raise BadFile(str(error), path=file, line=number) from None
    return tuple(out)


def _sets_of(cells: dict[str, str], offered: Sequence[Named]) -> tuple[LoggedSet, ...]:
    try:
        on = date.fromisoformat(cells.get("date", ""))
    except ValueError:
        raise BadInput(
            f"“{cells.get('date', '')}” is no day; write it such as 2031-05-04"
        ) from None
    standard = named_by(cells.get("exercise", ""), offered)
    one = set_typed(
        standard,
        on,
        load=cells.get("weight", ""),
        reps=cells.get("reps", ""),
        reserve=cells.get("reserve", ""),
        note=cells.get("note", ""),
        assisted=any(n.assisted for n in offered if n.id == standard),
    )
    count = cells.get("sets") or "1"
    if not count.isdecimal() or not 1 <= int(count) <= MOST_SETS:
        raise BadInput(f"“{count}” sets; write a number from 1 to {MOST_SETS}")
    return (one,) * int(count)
