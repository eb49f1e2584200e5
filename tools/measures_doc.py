"""Writes docs/measures.md from the measures themselves: `./run dev python
tools/measures_doc.py`."""

from __future__ import annotations

from inspect import getdoc, getmodule
from pathlib import Path

from guide_arc.core.kinematics.measures.registry import measures
from guide_arc.core.kinematics.measures.spec import MeasureSpec

PAGE = Path(__file__).resolve().parent.parent / "docs" / "measures.md"
HEAD = """# The measures

Each measure is one file in `src/guide_arc/core/kinematics/measures`; this page is made from them by
`./run dev python tools/measures_doc.py`. A measure is a function of landmarks in the world's axes: x to the subject's
left, y up, z the way they face. `measure` writes all that a recording shows, with their standard uncertainties; the
review's traces (G) show them.
"""
OF_LENGTH = {
    "": "",
    "trunk": " Percent of the trunk's length, counted from the quietest second before the first lift.",
    "upper-arm": " Percent of the upper arm's length.",
}
UNIT = {"deg": "degrees", "pct": "percent"}


def page() -> str:
    """The whole page."""
    return "\n".join([HEAD, *(section(spec) for spec in measures().values())])


def section(spec: MeasureSpec) -> str:
    """What the page says of one measure."""
    title = (getattr(getmodule(spec.formula), "__doc__", None) or "").strip()
    how = " ".join((getdoc(spec.formula) or "").split())
    views = [
        words
        for words, shown in (("the side", spec.from_side), ("the front or back", spec.from_front))
        if shown
    ]
    seen = f"From {' and from '.join(views)}, and in space." if views else "In space alone."
    sides = "left and right" if spec.per_side else "the whole trunk"
    parts = ", ".join(f"`{part}`" for part in spec.parts)
    return (
        f"## {spec.name}\n\n{title} {how}{OF_LENGTH[spec.of_length]}\n\n"
        f"Shown as “{spec.words}”, in {UNIT[spec.unit]}, for {sides}. {seen}\n\n"
        f"Landmarks: {parts}.\n"
    )


if __name__ == "__main__":
    PAGE.write_text(page(), encoding="utf-8")
