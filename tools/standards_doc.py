"""Writes docs/standards.md and the JSON Schema from the standards themselves:
`./run dev python tools/standards_doc.py`."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

from guide_arc.core.checks.registry import shows_also, specs
from guide_arc.core.kinematics.endpoints import TARGETS
from guide_arc.core.mechanics.fibres import FIBRES, along_pct
from guide_arc.core.model.rules import told
from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.rules import PLAN
from guide_arc.core.review.schools import what_differs
from guide_arc.standards.cautions import caution_words
from guide_arc.standards.loader import shipped, standard, usual_checks
from guide_arc.standards.schema import GRIPS, TOWARD, StandardForm
from guide_arc.standards.schemes import shipped_schemes
from guide_arc.standards.writing import json_schema

RULES = Path(__file__).resolve().parent / "rules.toml"
ROOT = Path(__file__).resolve().parent.parent
PAGE = ROOT / "docs" / "standards.md"
SCHEMA = ROOT / "src" / "guide_arc" / "standards" / "data" / "standard.schema.json"
HEAD = """# The exercise standards

This page is made from the standards by `./run dev python tools/standards_doc.py`. A standard is one text file (TOML)
that a coach can read and change; nothing about an exercise stands in the program itself. The same file draws the
guide arc, sets the checks, moves the simulated client and counts the reps.

## Reading and changing them

In the window (F4) a limit is typed or its ring on the figure dragged. Every change is kept at once as your own file in
the library's folder `standards`, under the same id: it stands over the shipped one, which stays as it is, so that
*Back to shipped* always has something to go back to and an upgrade of the program changes nothing of yours. Files put there by hand
count as well. A file that can't be used is named with its key, what is wrong and what would be right, and the shipped one
stands in the meantime.

While a standard is changed, the simulated client's clean set and your clients' latest sets are reviewed against it: *3 of
Ada’s last 5 sets pass*.

An editor that knows JSON Schema checks a file while one types: `src/guide_arc/standards/data/standard.schema.json`.
`schema_version` is the form of the file; older forms are brought up to date when they are read and never rewritten.

## The numbers of a pose

An arm is said in the body's own terms. `elevation_deg` is 0 hanging along the trunk, 90 level, 180 overhead. `plane_deg` is 0
out to the side, 90 straight ahead, above 90 across the midline, negative behind. `elbow_deg` is 0 straight.
`forearm_toward` is the way the forearm leaves the upper arm's line when the elbow bends, a word or `[out, up, ahead]`.
`grip` is underhand (the palm faces the way the elbow bends), neutral or overhand, or degrees from underhand.
Between two poses the upper arm turns the shortest way (a level arc stays level): `start`, `way` (on the lift, at its share), `turn`, `back` (on the
lower), and `across` where a rep ends on the other side. A `trunk` beside an end's arm says where the trunk is, for the left
arm's rep; the right arm's is its mirror.

## Schools

A school is a named set of changes: `set` changes keys, `add` and `drop` change checks. The first school is the strict one. Which
school a new set starts with is chosen per client and exercise, per client, per exercise, or for all (*Prefer* in the window); the
nearest of these counts where the standard has that school.

## What a check says

`harm` orders what is said first: spine, then joint, then effect. What a file leaves out of a check (its words, its limit) is
taken from `usual-checks.toml`. Each standard proves itself (`tests/standards/test_self_proof.py`): the simulated client's
clean set is `ok` in every check of every school, and each fault at twice its limit is found by its own check. Some faults are
the same fact seen twice, and only these may show in another check as well:
"""


def page() -> str:
    """The whole page."""
    parts = [HEAD]
    parts += [f"- `{name}` shows also as {_names(also)}" for name, also in shows_also().items()]
    parts.append("\n## The keys of a file\n\n| key | what it is |\n| --- | --- |")
    parts += [f"| `{key}` | {words} |" for key, words in _keys()]
    parts.append(
        "\n## End-points\n\nWhere the hand (or the elbow) finishes, each found from landmarks:\n"
    )
    parts.append("| target | in words | how it is found | seen from |\n| --- | --- | --- | --- |")
    parts += [
        f"| `{name}` | {t.words} | {t.defined} |"
        f" {', '.join('space' if v == 'none' else v for v in t.views)} |"
        for name, t in TARGETS.items()
    ]
    parts.append(
        "\n## Fibre lines\n\nWhere a region pulls; the window says how much of the elbow's way runs"
        " along it.\n"
    )
    parts.append("| line | in words |\n| --- | --- |")
    parts += [f"| `{name}` | {fibre.words} |" for name, fibre in FIBRES.items()]
    parts.append(
        f"\nWords for `forearm_toward`: {_names(TOWARD)}. Words for `grip`: {_names(GRIPS)}.\n"
    )
    parts.append("## Usual limits\n\n| check | limit | what is said |\n| --- | --- | --- |")
    for name, usual in usual_checks().items():
        limit = f"{usual['limit_deg']:g}°" if "limit_deg" in usual else f"{usual['limit_pct']:g} %"
        parts.append(f"| `{name}` | {limit} | {usual['why']} |")
    parts.append(MODEL_SETS)
    parts.append(f"## The catalogue\n\n{len(shipped())} standards, {_schools()} schools.\n")
    parts.append(
        "| id | name | kit | counted by | range | checks | schools |\n| --- | --- | --- | --- | ---"
        " | --- | --- |"
    )
    parts += [_row(id) for id in shipped()]
    parts += _what_schools_ask()
    parts += rule_by_rule()
    return "\n".join(parts) + "\n"


MODEL_SETS = """
## Made from a model set

*Standard from this set…* (menu *Standards*, with a set open) reads a good set: what moved gives the driving measure and its range,
the reps' mean gives the key poses and their spread the corridor, what stayed still becomes checks, the pace becomes the tempo.
What a recording can't show (muscle, kit, cautions, words) is lent by the nearest standard. The set it was made from is `ok`
against it. A picture gives only what its plane shows; the rest of the path is the nearest standard's, and that is said. A movement
that passes from side to side can't be read this way.

Three that the program made, drawn by it (`tools/screenshots.py`):

| from a set of | |
| --- | --- |
| a curl that rises to the nose | ![made from a rising curl](screenshots/model-set-curl.png) |
"""


def _names(names: Any) -> str:
    return ", ".join(f"`{n}`" for n in names)


def _schools() -> int:
    return sum(len(standard(id).schools) for id in shipped())


def _what_schools_ask() -> list[str]:
    """Each school beside the strict one of its exercise, in the words that Review says on a change
    of school."""
    out = [
        (
            "\n### What each school asks otherwise\n\nIn brackets what the first school of the"
            " exercise asks.\n"
        ),
        "| id | school | asks |\n| --- | --- | --- |",
    ]
    for id in shipped():
        first, *others = standard(id).schools
        out += [
            f"| `{id}` | {s.name} |"
            f" {'; '.join(what_differs(standard(id, first.id), standard(id, s.id)))} |"
            for s in others
        ]
    return out


def _row(id: str) -> str:
    plan = standard(id)
    unit = " %" if plan.drive_unit == "pct" else "°"
    span = f"{plan.range.from_deg:g} to {plan.range.to_deg:g}{unit}"
    held = "" if plan.held == "none" else f", {plan.held}"
    schools = ", ".join(s.name for s in plan.schools)
    return (
        f"| `{id}` | {plan.name} | {plan.pull}{held} | {plan.drive.replace('_', ' ')} | {span} |"
        f" {len(plan.checks)} | {schools} |"
    )


def _keys() -> list[tuple[str, str]]:
    schema = StandardForm.model_json_schema()
    out: list[tuple[str, str]] = []
    for key, entry in schema["properties"].items():
        own = _form(schema, entry)
        out.append((key, _words(entry, own)))
        for part, inner in (own or {}).get("properties", {}).items():
            out.append((f"{key}.{part}", _words(inner, None)))
            for leaf, last in (_form(schema, inner) or {}).get("properties", {}).items():
                out.append((f"{key}.{part}.{leaf}", _words(last, None)))
    return out


def _form(schema: dict[str, Any], entry: dict[str, Any]) -> dict[str, Any] | None:
    for place in (entry, entry.get("items", {}), *entry.get("anyOf", [])):
        if isinstance(place, dict) and "$ref" in place:
            found: dict[str, Any] = schema["$defs"][place["$ref"].rsplit("/", maxsplit=1)[-1]]
            return found
    return None


def _words(entry: dict[str, Any], form: dict[str, Any] | None) -> str:
    parts = []
    if entry.get("description"):
        parts.append(entry["description"].rstrip("."))
    if "enum" in entry:
        parts.append("one of " + ", ".join(f"`{v}`" for v in entry["enum"]))
    low, high = (
        entry.get(k, entry.get(e))
        for k, e in (("minimum", "exclusiveMinimum"), ("maximum", "exclusiveMaximum"))
    )
    if low is not None and high is not None:
        parts.append(f"{low:g} to {high:g}")
    if not parts and form is not None:
        parts.append("a table of its own, below")
    return "; ".join(parts) or "as its name says"


def rule_by_rule() -> list[str]:
    """Every rule of the work with what carries it. Raises ValueError for what there is not."""
    parts = [
        "",
        "## Rule by rule",
        "",
        (
            "Every rule of the work, and the number, check, school, scheme, caution or code that"
            " carries it."
        ),
    ]
    for block in tomllib.loads(RULES.read_text(encoding="utf-8"))["rule"]:
        parts += ["", f"### {block['section']}", "", "| rule | carried by |", "| --- | --- |"]
        for rule, *by in block["rules"]:
            if not by:
                raise ValueError(f"nothing carries {rule!r}")
            parts.append(f"| {rule} | {'; '.join(_carried(one) for one in by)} |")
    return parts


def _carried(ref: str) -> str:
    """What a reference comes to, with its number."""
    kind, _, rest = (
        ref.partition(":")
        if ":" in ref.split("@", maxsplit=1)[0]
        else (*ref.split("@", 1)[:1], "", ref.split("@", 1)[1])
    )
    if kind == "code":
        if not (ROOT / rest).exists():
            raise ValueError(f"there is no {rest}")
        return f"`{rest}`"
    if kind == "case":
        if not (ROOT / "tests" / "cases" / f"{rest}.toml").exists():
            raise ValueError(f"there is no case {rest}")
        return f"case `{rest}`"
    if kind == "caution":
        return f"caution: {caution_words()[rest]}"
    if kind == "scheme":
        return f"scheme “{shipped_schemes()[rest].name}”"
    if kind == "number":
        told_ = next(t for t in told(PLAN) if t.name == rest)
        return f"`{rest}`: {told_.value:g} {told_.unit}"
    name, _, where = rest.rpartition("@") if "@" in rest else ("", "", rest)
    id, _, school = where.partition("/")
    plan = standard(id, school or None)
    return _of_plan(kind, name, plan)


def _of_plan(kind: str, name: str, plan: Standard) -> str:
    if kind == "check":
        rule = plan.check(name)
        if rule is None:
            raise ValueError(f"{plan.id} has no check {name}")
        target = f" at {rule.target}" if rule.target else ""
        sign = {"deg": "°", "pct": " %"}[specs()[name].limit_unit(plan.drive_unit)]
        return f"`{name}`{target}, {rule.limit:g}{sign} in {plan.name}"
    if kind == "school":
        return f"school “{next(s.name for s in plan.schools if s.id == name)}” of {plan.name}"
    if kind == "felt":
        rules = [r for r in plan.checks if name in (*r.felt, *(f for w in r.ways for f in w.felt))]
        if not rules:
            raise ValueError(f"nothing of {plan.id} is felt in the {name}")
        return f"{' or '.join(f'`{r.name}`' for r in rules)} in {plan.name}"
    if kind == "fibre":
        along = along_pct(plan)
        if along is None:
            raise ValueError(f"{plan.id} has no fibre line for the arm")
        return f"path {along:.0f} % along its fibres in {plan.name}"
    said = {
        "tempo": f"tempo {plan.tempo}",
        "range": f"range {plan.range.from_deg:g} to {plan.range.to_deg:g}°",
        "lean": f"lean {plan.trunk_lean_deg[0]:g} to {plan.trunk_lean_deg[1]:g}°",
        "hold": (
            f"holds on {plan.holds.on}, opening stretch {plan.holds.opening_stretch_s:g} s, tempo"
            f" {plan.tempo}"
        ),
        "dose": (
            f"{plan.dose.reps[0]} to {plan.dose.reps[1]} reps, {plan.dose.rest_s} s of rest"
            + (
                f", {100 * plan.dose.of_parent[1]:.0f} % of {plan.dose.of_parent[0]}"
                if plan.dose.of_parent
                else ""
            )
        ),
    }[kind]
    return f"{said} in {plan.name}"


if __name__ == "__main__":
    PAGE.write_text(page(), encoding="utf-8")
    SCHEMA.write_text(json_schema(), encoding="utf-8")
