"""Reading standards: the file, its schools, and the value that the core works with."""

from __future__ import annotations

import copy
import json
import tomllib
from collections.abc import Iterator
from dataclasses import replace
from functools import cache
from importlib import resources
from pathlib import Path
from typing import Any, Final

from pydantic import ValidationError

from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.standard import (
    ArmPose,
    CheckRule,
    Dose,
    Holds,
    PraiseLine,
    Range,
    School,
    Standard,
    Tempo,
    TrunkPose,
    WayWords,
)
from guide_arc.standards.errors import BadStandard
from guide_arc.standards.migrate import brought_up
from guide_arc.standards.schema import GRIPS, TOWARD, CheckForm, DoseForm, PoseForm, StandardForm


@cache
def shipped() -> dict[str, dict[str, Any]]:
    """Every shipped standard's raw file by id, in order of region and name."""
    out: dict[str, dict[str, Any]] = {}
    for name, text in sorted(_shipped_texts()):
        raw = parse_toml(text, name)
        out[str(raw.get("id"))] = raw
    return out


def _shipped_texts() -> Iterator[tuple[str, str]]:
    root = resources.files("guide_arc.standards").joinpath("data")
    for region in root.iterdir():
        if region.is_dir():
            for file in region.iterdir():
                if file.name.endswith(".toml"):
                    yield f"{region.name}/{file.name}", file.read_text(encoding="utf-8")


def parse_toml(text: str, name: str) -> dict[str, Any]:
    """The raw keys of a standard's file. Raises BadStandard with the line."""
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise BadStandard(f"{name}: this is not TOML ({error}).") from None
    except (RecursionError, ValueError):
        raise BadStandard(
            f"{name}: this TOML is nested too deep or holds a number too long."
        ) from None


def read_standard(path: Path, school: str | None = None) -> Standard:
    """A standard from a coach's own file."""
    try:
        text = path.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise BadStandard(f"{path.name}: the file can't be read ({error}).") from None
    return build(parse_toml(text, path.name), path.name, school)


@cache
def standard(id: str, school: str | None = None) -> Standard:
    """A shipped standard as one school sees it; the first school if none is named.

    Raises BadInput for an unknown id or school, with the nearest known one.
    """
    known = shipped()
    if id not in known:
        raise BadInput(
            f"there is no standard {id!r}{did_you_mean(id, known)}; "
            "'guide-arc standards' lists them all"
        )
    plan = build(known[id], f"{id}.toml", school)
    return replace(plan, shown_from=shown_from().get(id, {}).get(plan.school.id, {}))


def build(raw: dict[str, Any], name: str, school: str | None = None) -> Standard:
    """The standard in a raw file with one school's changes applied."""
    raw = brought_up(raw, name)
    plain = _validated(raw, name)
    ids = [s.id for s in plain.school]
    chosen = school or ids[0]
    if chosen not in ids:
        raise BadInput(
            f"the standard {plain.id!r} has no school {chosen!r}{did_you_mean(chosen, ids)}; "
            f"it has {', '.join(ids)}"
        )
    changes = next(s for s in plain.school if s.id == chosen)
    # What carries the body comes first: it selects the usual words.
    first = {k: v for k, v in changes.set.items() if k.startswith(("posture.", "kit."))}
    changed = copy.deepcopy(raw)
    for key, value in first.items():
        change(changed, key, value, f"{name}, school {chosen}")
    changed = with_usual_words(changed)
    for key, value in changes.set.items():
        if key not in first:
            change(changed, key, value, f"{name}, school {chosen}")
    checks = [c for c in changed["check"] if c.get("name") not in changes.drop]
    added = [c.model_dump(exclude_none=True) for c in changes.add]
    changed["check"] = [
        c for c in checks if c.get("name") not in {a["name"] for a in added}
    ] + added
    form = _validated(changed, f"{name}, school {chosen}")
    return _value(form, chosen)


@cache
def shown_from() -> dict[str, dict[str, dict[str, str]]]:
    """By standard, school and check the recordings that show it (`tools/shown_from.py` tries
    them)."""
    text = resources.files("guide_arc.standards").joinpath("data/shown-from.json")
    found: dict[str, dict[str, dict[str, str]]] = json.loads(text.read_text(encoding="utf-8"))
    return found


@cache
def usual_checks() -> dict[str, dict[str, Any]]:
    """What each check says where a standard's file does not say it itself."""
    text = resources.files("guide_arc.standards").joinpath("data/usual-checks.toml")
    return tomllib.loads(text.read_text(encoding="utf-8"))


# A bench that is steeper is a seat: a person who sits on it can still be told to sit tall.
_STEEPEST_BENCH_DEG: Final = 70.0
_CARRIED_BY: Final = {"plank": "hands", "pike": "hands", "on-hands": "hands"}


def _carried_by(raw: dict[str, Any]) -> str:
    """What carries the body, as the usual words know it: a standing body is told to stand."""
    posture, kit = raw.get("posture"), raw.get("kit")
    base: object = posture.get("base") if isinstance(posture, dict) else ""
    bench: object = kit.get("bench_deg") if isinstance(kit, dict) else None
    if base == "seated":
        flat = isinstance(bench, int | float) and bench < _STEEPEST_BENCH_DEG
        return "bench" if flat else "seat"
    return _CARRIED_BY.get(str(base), str(base))


def _with_usual(check: Any, on: str) -> Any:
    """A file's check, with the usual words and limit if it has none.

    on : what carries the body
    """
    if not isinstance(check, dict):
        return check
    usual = dict(usual_checks().get(str(check.get("name")), {}))
    carried = usual.pop("on", {}).get(on, {}).get("ways", {})
    if carried:
        ways = usual.get("ways", {})
        usual["ways"] = {
            **ways,
            **{way: {**ways.get(way, {}), **own} for way, own in carried.items()},
        }
    if "limit_deg" in check or "limit_pct" in check:
        usual = {k: v for k, v in usual.items() if not k.startswith("limit_")}
    out = {**usual, **check}
    known = usual.get("ways", {})
    if isinstance(check.get("ways"), dict):
        own = {
            way: {**known.get(way, {}), **words} if isinstance(words, dict) else words
            for way, words in check["ways"].items()
        }
        out["ways"] = {**known, **own}
    return out


def with_usual_words(raw: dict[str, Any]) -> dict[str, Any]:
    """A raw file with the usual words in all its checks, its schools' own ones as well."""
    out, on = dict(raw), _carried_by(raw)
    if isinstance(out.get("check"), list):
        out["check"] = [_with_usual(c, on) for c in out["check"]]
    if isinstance(out.get("school"), list):
        out["school"] = [
            (
                {**s, "add": [_with_usual(c, on) for c in s["add"]]}
                if isinstance(s, dict) and isinstance(s.get("add"), list)
                else s
            )
            for s in out["school"]
        ]
    return out


def _validated(raw: dict[str, Any], name: str) -> StandardForm:
    try:
        return StandardForm.model_validate(with_usual_words(raw))
    except ValidationError as error:
        first = error.errors()[0]
        key = ".".join(_step(raw, first["loc"], i) for i in range(len(first["loc"]))) or "file"
        what = first["msg"].removeprefix("Value error, ")
        if first["type"] == "extra_forbidden":
            where = StandardForm.model_fields if len(first["loc"]) == 1 else {}
            what = f"this key is not known{did_you_mean(str(first['loc'][-1]), where)}; take it out"
        elif first["type"] == "missing":
            what = "this key is missing; add it"
        more = error.error_count() - 1
        tail = f" (and {more} more)" if more else ""
        raise BadStandard(f"{name}: {key}: {what}{tail}.") from None


def _step(raw: Any, loc: tuple[int | str, ...], i: int) -> str:
    """A list element by its name, if it has one: check.torso-swing rather than check.3."""
    if isinstance(loc[i], str):
        return str(loc[i])
    at = raw
    for step in loc[: i + 1]:
        try:
            at = at[step]
        except (KeyError, IndexError, TypeError):
            return str(loc[i])
    for label in ("name", "at", "id"):
        if isinstance(at, dict) and label in at:
            return str(at[label])
    return str(loc[i])


def change(raw: dict[str, Any], dotted: str, value: Any, name: str) -> None:
    """Set `check.torso-swing.limit_deg` or `pose.turn.arm.elevation_deg` in a raw file.

    Raises BadStandard if the file has no such place.
    """
    steps = dotted.split(".")
    at: Any = raw
    for step in steps[:-1]:
        if isinstance(at, list):
            at = next((e for e in at if step in (e.get("name"), e.get("at"), e.get("id"))), None)
        elif isinstance(at, dict):
            at = at.get(step)
        else:
            at = None
        if at is None:
            raise BadStandard(
                f"{name}: set.{dotted}: there is no {step!r}; name a key of this file."
            )
    if not isinstance(at, dict):
        raise BadStandard(
            f"{name}: set.{dotted}: there is no {steps[-1]!r}; name a key of this file."
        )
    at[steps[-1]] = value


def _value(form: StandardForm, chosen: str) -> Standard:
    schools = tuple(School(s.id, s.name, s.why, s.choose_when) for s in form.school)
    ends = {p.at: p for p in form.pose if p.share is None}
    start, turn, tolerance = form.range.ends
    return Standard(
        id=form.id,
        name=form.name,
        region=form.region,
        muscle=form.target.muscle,
        line=form.target.line,
        pull=form.kit.pull,
        held=form.kit.held,
        pulley_m=form.kit.pulley,
        anchor_m=form.kit.anchor,
        bench_deg=form.kit.bench_deg,
        arms=form.arms,
        base=form.posture.base,
        trunk_lean_deg=form.posture.trunk_lean_deg,
        elbow_path=form.elbow_path,
        drive=form.drive,
        range=Range(start, turn, tolerance),
        tempo=Tempo(**form.tempo.model_dump()),
        holds=Holds(**form.holds.model_dump()),
        dose=_dose(form.dose),
        start=_pose(ends["start"]),
        turn=_pose(ends["turn"]),
        ways=_on_the_way(form, "way"),
        backs=_on_the_way(form, "back"),
        across=_pose(ends["across"]) if "across" in ends else None,
        trunk=(_trunk(form, ends["start"]), _trunk(form, ends["turn"])),
        checks=tuple(_rule(c) for c in form.check),
        views=tuple(form.views.best),
        cautions=tuple(form.cautions),
        rises_on=tuple(form.rises_on),
        easier=tuple(form.easier),
        harder=tuple(form.harder),
        setup=form.setup,
        praise=_praise(form),
        school=next(s for s in schools if s.id == chosen),
        schools=schools,
    )


def _on_the_way(form: StandardForm, at: str) -> tuple[tuple[float, ArmPose], ...]:
    poses = [(p.share or 0.0, _pose(p)) for p in form.pose if p.at == at]
    return tuple(sorted(poses, key=lambda pose: pose[0]))


def _praise(form: StandardForm) -> tuple[PraiseLine, ...]:
    if isinstance(form.praise, str):
        return (PraiseLine(form.praise),)
    return tuple(PraiseLine(line.words, tuple(line.proof)) for line in form.praise)


def _dose(form: DoseForm) -> Dose:
    parent = next(iter(form.of_parent.items()), None)
    return Dose(form.reps, form.sets, form.rest_s, form.load_step_kg, form.partials, parent)


def _pose(form: PoseForm) -> ArmPose:
    arm = form.arm
    toward = (
        TOWARD[arm.forearm_toward] if isinstance(arm.forearm_toward, str) else arm.forearm_toward
    )
    grip = GRIPS[arm.grip] if isinstance(arm.grip, str) else arm.grip
    return ArmPose(arm.elevation_deg, arm.plane_deg, arm.elbow_deg, toward, grip)


def _trunk(form: StandardForm, pose: PoseForm) -> TrunkPose:
    low, high = form.posture.trunk_lean_deg
    own = pose.trunk
    if own is None:
        return TrunkPose(0.5 * (low + high))
    lean = 0.5 * (low + high) if own.lean_deg is None else own.lean_deg
    return TrunkPose(lean, own.side_lean_deg, own.twist_deg, own.hike_pct, own.round_deg)


def _rule(form: CheckForm) -> CheckRule:
    return CheckRule(
        name=form.name,
        limit=form.limit,
        harm=form.harm,
        title=form.title,
        why=form.why,
        cue=form.cue,
        target=form.target,
        at=form.at or "turn",
        other_cues=tuple(form.other_cues),
        felt=tuple(form.felt),
        ways=tuple(
            WayWords(way, w.title, w.why, w.cue, tuple(w.other_cues), tuple(w.felt))
            for way, w in form.ways.items()
        ),
    )
