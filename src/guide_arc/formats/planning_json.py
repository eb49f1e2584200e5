"""A client's history of one exercise, and a session, as JSON documents."""

from __future__ import annotations

import datetime
import json
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Annotated, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from guide_arc.core.model.client import PLACES, SIDED, Cleared, SorePlace
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.planning.history import (
    Aim,
    DoneSet,
    History,
    Seen,
)
from guide_arc.core.planning.over_weeks import GivenCue, SeenSet, Weeks
from guide_arc.core.planning.session import Session, SessionFigures, SessionLine
from guide_arc.formats.errors import BadFile
from guide_arc.formats.json_object import read_object

_MOST_RACK_STEPS = 2000
Kilograms = Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)]
Seconds = Annotated[float, Field(ge=0, le=36000, allow_inf_nan=False)]
Reps = Annotated[int, Field(ge=0, le=1000)]
Day = datetime.date
M = TypeVar("M", bound=BaseModel)
# (id, school) -> the standard; BadInput if there is none.
StandardOf = Callable[[str, str | None], Standard]
# text -> the tempo; BadInput if it is none.
TempoOf = Callable[[str], Tempo]


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=False)


class _FindingForm(_Part):
    check: str = Field(min_length=1, max_length=60)
    verdict: Literal["ok", "near", "off", "cannot-tell"]
    harm: Literal["spine", "joint", "effect"]
    eye: Literal["held", "broke"] | None = None


class _CueForm(_Part):
    check: str = Field(min_length=1, max_length=60)
    measure: str = Field(min_length=1, max_length=60)
    words: str = ""


Number = Annotated[float, Field(allow_inf_nan=False)]


class _SetForm(_Part):
    on: Day
    load_kg: Kilograms | None = None
    left_reps: Reps = 0
    right_reps: Reps = 0
    partial_reps: Reps = 0
    findings: list[_FindingForm] = []
    pain: bool = False
    felt: list[str] = []
    filmed: bool = True
    in_reserve: Reps | None = None
    view: str = ""
    measures: dict[str, tuple[Number, Annotated[float, Field(ge=0, allow_inf_nan=False)]]] = {}
    cues: list[_CueForm] = []


class _ClearedForm(_Part):
    place: str | None = None
    on: Day


class _SoreForm(_Part):
    model_config = ConfigDict(extra="forbid", populate_by_name=True)
    place: str
    since: Day = Field(alias="from")
    until: Day | None = Field(default=None, alias="to")


class _AimForm(_Part):
    reps: tuple[Annotated[int, Field(ge=1, le=1000)], Annotated[int, Field(ge=1, le=1000)]]
    sets: int = Field(ge=1, le=50)


class _RackForm(_Part):
    model_config = ConfigDict(extra="forbid", populate_by_name=True)
    first: Kilograms = Field(alias="from")
    last: Kilograms = Field(alias="to")
    step: Annotated[float, Field(gt=0, le=500)]


class _HistoryForm(_Part):
    standard: str
    school: str | None = None
    rack_kg: list[Kilograms] | _RackForm
    assisted: bool = False
    on: Day | None = None
    aim: _AimForm | None = None
    sore: list[_SoreForm] = []
    cleared: list[_ClearedForm] = []
    sets: list[_SetForm] = Field(min_length=1, max_length=100000)


class _LineForm(_Part):
    standard: str
    sets: int = Field(ge=1, le=100)
    reps: int = Field(ge=1, le=1000)
    tempo: str
    rest_s: Seconds
    arms: Literal["both", "one-after-other", "alternating"] = "both"
    pair: str | int | None = None
    circuit: str | int | None = None
    load_kg: Kilograms | None = None


class _SessionForm(_Part):
    warm_up_s: Seconds = 0.0
    change_s: Seconds = 90.0
    lines: list[_LineForm] = Field(min_length=1, max_length=200)


def read_history(path: Path, standard_of: StandardOf) -> History:
    """A history from its file. Raises BadInput with the place of what is wrong."""
    return read_weeks(path, standard_of)[0]


def read_weeks(path: Path, standard_of: StandardOf) -> tuple[History, tuple[SeenSet, ...]]:
    """A history with what its sets measured. Raises BadInput with the place of what is wrong."""
    form = _read(path, _HistoryForm, "history")
    if form.aim is not None and form.aim.reps[0] > form.aim.reps[1]:
        raise BadFile("aim.reps falls", path=path, right="the lower number comes first")
    places = [(f"sore.{i}", s.place) for i, s in enumerate(form.sore)]
    places += [(f"cleared.{i}", c.place) for i, c in enumerate(form.cleared) if c.place is not None]
    for where, place in places:
        if place not in (*PLACES, *SIDED):
            raise BadFile(
                f"{where}.place is {place!r}",
                path=path,
                right=(
                    f"it must be one of {', '.join(PLACES)}, with left or right before it where"
                    " known"
                ),
            )
    try:
        standard = standard_of(form.standard, form.school)
        history = History(
            standard=standard,
            rack_kg=_rack(form.rack_kg),
            sets=tuple(_done(s, one_arm=standard.arms == "one") for s in form.sets),
            on=form.on or form.sets[-1].on,
            assisted=form.assisted,
            aim=Aim(form.aim.reps, form.aim.sets) if form.aim else None,
            sore=tuple(SorePlace(s.place, s.since, s.until) for s in form.sore),
            cleared=tuple(Cleared(c.place, c.on) for c in form.cleared),
        )
        cues = [tuple(GivenCue(c.check, c.measure, c.words) for c in s.cues) for s in form.sets]
        return history, tuple(
            SeenSet(done, own.view, own.measures, said)
            for done, own, said in zip(history.sets, form.sets, cues, strict=True)
        )
    except BadInput as error:
        raise BadFile(str(error), path=path) from None


def read_session(path: Path, standard_of: StandardOf, tempo_of: TempoOf) -> Session:
    """A session from its file. Raises BadInput with the place of what is wrong."""
    form = _read(path, _SessionForm, "session")
    lines = []
    for i, line in enumerate(form.lines):
        try:
            plan, tempo = standard_of(line.standard, None), tempo_of(line.tempo)
        except BadInput as error:
            raise BadFile(f"lines.{i}: {error}", path=path) from None
        pair = "" if line.pair is None else str(line.pair)
        circuit = "" if line.circuit is None else str(line.circuit)
        lines.append(
            SessionLine(
                standard=plan,
                sets=line.sets,
                reps=line.reps,
                tempo=tempo,
                rest_s=line.rest_s,
                arms=line.arms,
                pair=pair,
                load_kg=line.load_kg,
                circuit=circuit,
            )
        )
    return Session(tuple(lines), form.warm_up_s, form.change_s)


def dose_json(dose: Prescription) -> str:
    """The next dose as the contract has it."""
    document = {
        "format": "dose/1",
        "change": dose.change,
        "load_kg": dose.load_kg,
        "reps": list(dose.reps),
        "sets": dose.sets,
        "tempo": str(dose.tempo),
        "rest_s": dose.rest_s,
        "reasons": list(dose.reasons),
        "then": dose.then,
        "ask": {"load_kg": dose.ask.load_kg, "why": dose.ask.why} if dose.ask else None,
        "look_for": list(dose.look_for),
        "questions": list(dose.questions),
    }
    return json.dumps(document, indent=1, ensure_ascii=False)


def weeks_json(weeks: Weeks) -> str:
    """What a history says over the weeks, as the contract has it."""
    document = {
        "format": "weeks/1",
        "held": [
            {"on": s.on.isoformat(), "load_kg": s.load_kg, "reps": s.reps, "reps_held": s.reps_held}
            for s in weeks.held
        ],
        "trends": [asdict(t) for t in weeks.trends],
        "cues": [
            {
                "check": c.check,
                "measure": c.measure,
                "on": c.on.isoformat(),
                "word": c.word,
                "sets_after": c.sets_after,
            }
            for c in weeks.cues
        ],
        "loads": [asdict(load) for load in weeks.loads],
    }
    return json.dumps(document, indent=1, ensure_ascii=False)


def session_json(figures: SessionFigures) -> str:
    """A session's figures as the contract has it."""
    document = {
        "format": "session/1",
        "length_s": figures.length_s,
        "under_tension_s": figures.under_tension_s,
        "rest_s": figures.rest_s,
        "lines": [
            {"work_s": work, "under_tension_s": tension}
            for work, tension in zip(figures.work_s, figures.tension_s, strict=True)
        ],
        "warnings": list(figures.warnings),
        "regions": figures.regions,
    }
    return json.dumps(document, indent=1, ensure_ascii=False)


def _done(form: _SetForm, *, one_arm: bool) -> DoneSet:
    seen = tuple(Seen(f.check, f.verdict, f.harm, eye=f.eye) for f in form.findings)
    return DoneSet(
        on=form.on,
        load_kg=form.load_kg,
        left_reps=form.left_reps,
        right_reps=form.right_reps,
        partial_reps=form.partial_reps,
        findings=seen,
        pain=form.pain,
        felt=tuple(form.felt),
        filmed=form.filmed,
        in_reserve=form.in_reserve,
        one_arm=one_arm,
    )


def _rack(form: list[float] | _RackForm) -> tuple[float, ...]:
    if isinstance(form, list):
        return tuple(sorted(set(form)))
    if form.last < form.first:
        raise BadInput("rack_kg goes from a heavier to a lighter weight; from must come first")
    count = int((form.last - form.first) / form.step + 1e-9)
    if count > _MOST_RACK_STEPS:
        raise BadInput(f"rack_kg has more than {_MOST_RACK_STEPS} steps")
    return tuple(round(form.first + i * form.step, 6) for i in range(count + 1))


def _read(path: Path, form: type[M], what: str) -> M:
    document = read_object(path, what)
    try:
        return form.model_validate(document)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(
            str(step)
            for step in first["loc"]
            if not str(step)[:1].isupper() and str(step)[:1] != "_"
        )
        said = first["msg"].removeprefix("Value error, ")
        raise BadFile(f"{where or what}: {said[:1].lower()}{said[1:]}", path=path) from None
