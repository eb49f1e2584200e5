"""Writes docs/cases.md from the cases of the work: `./run dev python tools/cases_doc.py`."""

from __future__ import annotations

import sys
import tomllib
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT / "src"))

from guide_arc.standards.loader import standard

CASES = ROOT / "tests" / "cases"
PAGE = ROOT / "docs" / "cases.md"
NEXT = {
    "up": "harder",
    "same": "the same weight",
    "down": "lighter",
    "more-reps": "more reps first",
    "stop": "stop, ask a clinician first",
}
HEAD = """# The cases of the work

Each case is a recording made by editing a performance (`tests/edits.py`): landmarks turned, shifted and delayed
as a body would be, with a noise of its own. Nothing in the edits knows of the checks. What stands here is what a
coach would conclude; `./run test tests/test_cases.py` holds the program to every line of it, so that a page that
is in the repository is a page that holds. Made from `tests/cases/` by `./run dev python tools/cases_doc.py`.

| case | exercise | what was done | found off | said first | next time |
| --- | --- | --- | --- | --- | --- |
"""


def row(name: str, case: dict[str, Any]) -> str:
    """One case as a line of the table."""
    want = case["expect"]
    found = ", ".join(f"`{c}`" for c in want["off"]) if want.get("off") else "nothing"
    if "off" not in want:
        found = "as it is"
    seen = "" if case.get("view", "none") == "none" else f" (from the {case['view']})"
    first = want.get("cue") or want.get("cue_for") or want.get("cause") or want.get("says") or ""
    then = NEXT[want["next"]] if "next" in want else ""
    if want.get("reason"):
        then += f": “{want['reason']}”"
    exercise = standard(case["standard"]).name
    return f"| {name} | {exercise}{seen} | {case['done']} | {found} | {first} | {then} |"


def page() -> str:
    """The whole page."""
    rows = (row(p.stem, tomllib.loads(p.read_text())) for p in sorted(CASES.glob("*.toml")))
    return HEAD + "\n".join(rows) + "\n"


if __name__ == "__main__":
    PAGE.write_text(page(), encoding="utf-8")
