"""Writes docs/checks.md from the checks themselves: `./run dev python tools/checks_doc.py`."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from pathlib import Path

from guide_arc.core.checks.registry import specs
from guide_arc.core.model.track import View
from guide_arc.standards.loader import shipped, standard
from guide_arc.standards.proof import judged_from

# A view that none of so many standards can be judged from can't judge the check.
_MOST_TRIED = 24
TARGET = Path(__file__).resolve().parent.parent / "docs" / "checks.md"
VIEWS: dict[View, str] = {
    "none": "in space",
    "front": "from the front",
    "back": "from the back",
    "left": "from the left",
    "right": "from the right",
}
UNIT = {"deg": "degrees", "pct": "percent"}
HEAD = """# The checks

Each check is one file in `src/guide_arc/core/checks`; this page is made from them by
`./run dev python tools/checks_doc.py`. A value is measured on every rep, with its uncertainty: 95 % of the
errors stay within it (twice the standard uncertainty). Per rep and for the whole set the verdict is

- `off` when the value is past the limit by more than the uncertainty,
- `ok` when it is inside by at least the uncertainty,
- `near` for what lies between,
- `cannot-tell` when the view, the landmarks or the noise do not support a verdict; `why` says so.

A finding carries the worst verdict of its reps and names those reps; its value is the worst among them.
Limits stand in the standards' files and may change with the school.
"""


def page() -> str:
    """The whole page."""
    return "\n".join([HEAD, *(section(name) for name in specs())])


def section(name: str) -> str:
    """What the page says of one check."""
    says, users, used = described(name)
    return "\n".join((says + "\n", judged_by(name, users) + "\n", used + "\n"))


def described(name: str) -> tuple[str, list[str], str]:
    """What the check says of itself, the standards to try it on, and where it is used."""
    spec = specs()[name]
    module = __import__(spec.check.__module__, fromlist=["__doc__"])
    title, *rest = [" ".join(part.split()) for part in (module.__doc__ or "").split("\n\n")]
    says = title.partition(": ")[2]
    rules = {id: rule for id in shipped() if (rule := standard(id).check(name))}
    limits = sorted({f"{rule.limit:g}" for rule in rules.values()}, key=float)
    where = f"{len(rules)} of {len(shipped())} standards" if rules else "some schools"
    used = f"Limit in {UNIT[spec.limit_unit('deg')]}; used by {where}"
    return (
        "\n\n".join((f"## {name}", f"{says[:1].upper()}{says[1:]}", *rest)),
        list(rules) or list(shipped()),
        used + (f", with {', '.join(limits)}." if limits else "."),
    )


@cache
def _verdicts(id: str, school: str, view: View) -> Mapping[str, bool]:
    """Which checks give a verdict on a simulated set of a school, seen by one camera view."""
    return judged_from(standard(id, school))[view]


def judged_by(name: str, users: list[str]) -> str:
    """The recordings that a verdict can come from, as seen on simulated sets of the standards that
    use it."""
    seen = []
    for view, words in VIEWS.items():
        for id in users[:_MOST_TRIED]:
            schools = [s.id for s in standard(id).schools if standard(id, s.id).check(name)]
            if any(_verdicts(id, school, view).get(name) for school in schools):
                seen.append(words)
                break
    return (
        f"Judged from a recording {', '.join(seen)}."
        if seen
        else "No shipped standard uses it yet."
    )


if __name__ == "__main__":
    TARGET.write_text(page(), encoding="utf-8")
