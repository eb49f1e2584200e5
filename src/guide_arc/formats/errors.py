"""A file that can't be used: one sentence with what is wrong, where, and what would be right."""

from __future__ import annotations

from pathlib import Path

from guide_arc.core.model.errors import BadInput


class BadFile(BadInput):
    """what: what is wrong; right: what would be right; line and column where known."""

    def __init__(
        self,
        what: str,
        *,
        path: Path | str,
        line: int | None = None,
        column: str | None = None,
        right: str | None = None,
    ) -> None:
        self.what, self.path, self.line, self.column, self.right = what, path, line, column, right
        where = Path(path).name
        if line is not None:
            where += f", line {line}"
        if column is not None:
            where += f", column {column}"
        text = f"{where}: {what}"
        if right:
            text += f"; {right}"
        super().__init__(text.replace("\n", " ").rstrip(".") + ".")
