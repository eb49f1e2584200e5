"""Writes docs/forms.md from the declarations themselves: `./run dev python tools/forms_doc.py`."""

from __future__ import annotations

from pathlib import Path

from guide_arc.formats.format import Format
from guide_arc.formats.registry import formats
from guide_arc.reports.exports.registry import exports

PAGE = Path(__file__).resolve().parent.parent / "docs" / "forms.md"
HEAD = """# What comes in and what leaves

This page is made from the program's own declarations by `./run dev python tools/forms_doc.py`. Each form of a landmark
track is one file in `src/guide_arc/formats`, each other export one in `src/guide_arc/reports/exports`. Clips come in as
MP4, MOV, MKV or WebM ([clips](clips.md)).

## Landmark tracks

`convert SOURCE TARGET` goes from one form to another by the ending, or by the name with `--form`.

| form | name | endings | read | written | holds |
| --- | --- | --- | --- | --- | --- |
"""
NEEDS = {
    "": "any set",
    "clip": "a clip",
    "world": "a track in space",
    "image": "a track of a picture",
}
HOLDS = {"": "space or picture", "world": "space", "image": "picture"}


def page() -> str:
    """The whole page."""
    rows = [_row(form) for form in formats()]
    leaves = [
        f"| {e.words} | {', '.join(ending for ending, _ in e.files)} | {NEEDS[e.needs]} |"
        f" {e.help} |"
        for e in exports()
    ]
    return (
        HEAD
        + "\n".join(rows)
        + "\n\n## What leaves a review\n\n| what | endings | needs | |\n| --- | --- | --- | --- |\n"
        + "\n".join(leaves)
        + "\n"
    )


def _row(form: Format) -> str:
    read, written = ("yes" if can is not None else "no" for can in (form.read, form.write))
    return (
        f"| {form.words}: {form.help} | `{form.id}` | {' '.join(form.suffixes)} | {read} |"
        f" {written} | {HOLDS[form.holds]} |"
    )


if __name__ == "__main__":
    PAGE.write_text(page(), encoding="utf-8")
