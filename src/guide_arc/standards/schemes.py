"""The shipped schemes of sets and reps, and a coach's own."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources
from pathlib import Path
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.planning.scheme import BackOff, Scheme


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid")


class _BackOffForm(_Part):
    reps: tuple[int, int]
    sets: int = Field(ge=1, le=10)
    share: float = Field(gt=0.3, lt=1.0)


class SchemeForm(_Part):
    """One scheme, as its file holds it."""

    name: str = Field(min_length=3, max_length=60)
    why: str = Field(min_length=10)
    held_by: str = Field(min_length=3)
    limits: str = Field(min_length=5)
    reps: tuple[int, int] | None = None
    sets: int | None = Field(default=None, ge=1, le=10)
    rest_s: int | None = Field(default=None, ge=0, le=900)
    grows: Literal["weight", "reps"] = "weight"
    step_reps: int = Field(default=1, ge=1, le=20)
    most_reps: int = Field(default=0, ge=0, le=100)
    back_off: _BackOffForm | None = None
    lower_s: float | None = Field(default=None, gt=0, le=30)
    top_s: float | None = Field(default=None, ge=0, le=60)
    bottom_s: float | None = Field(default=None, ge=0, le=60)
    holds_on: Literal["every", "first", "last", "first-and-last"] = "every"
    partials: int = Field(default=0, ge=0, le=20)
    in_reserve: int = Field(default=2, ge=0, le=10)
    rounds: tuple[int, int] = (0, 0)
    pair: Literal["", "raise", "sweep"] = ""
    alternates: bool = False

    @model_validator(mode="after")
    def _possible(self) -> SchemeForm:
        for reps in (self.reps, self.back_off.reps if self.back_off else None):
            if reps and not 1 <= reps[0] <= reps[1] <= 100:
                raise ValueError("reps go from the lower to the upper number, between 1 and 100")
        if self.grows == "reps" and (self.reps is None or self.most_reps < self.reps[1]):
            raise ValueError("a scheme that grows by reps needs reps and a most_reps above them")
        return self


@cache
def shipped_schemes() -> dict[str, Scheme]:
    """Every shipped scheme by id."""
    file = resources.files("guide_arc.standards").joinpath("data/schemes.toml")
    return parse_schemes(file.read_text(encoding="utf-8"), "schemes.toml")


def parse_schemes(text: str, name: str) -> dict[str, Scheme]:
    """Schemes from a file's text. Raises BadInput with the key of what is wrong."""
    try:
        raw = tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise BadInput(f"{name}: this is not TOML ({error})") from None
    except (RecursionError, ValueError):
        raise BadInput(f"{name}: this TOML is nested too deep or holds a number too long") from None
    out: dict[str, Scheme] = {}
    for id, fields in raw.items():
        try:
            form = SchemeForm.model_validate(fields)
        except ValidationError as error:
            first = error.errors()[0]
            where = ".".join(str(step) for step in (id, *first["loc"]))
            said = first["msg"].removeprefix("Value error, ")
            raise BadInput(f"{name}: {where}: {said[:1].lower()}{said[1:]}") from None
        given = form.model_dump()
        if form.back_off:
            given["back_off"] = BackOff(**form.back_off.model_dump())
        out[id] = Scheme(id=id, **given)
    return out


def schemes_with(own: Path | None = None) -> dict[str, Scheme]:
    """The shipped schemes with a coach's own file over them, if there is one."""
    if own is None or not own.exists():
        return shipped_schemes()
    try:
        text = own.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise BadInput(f"{own.name}: the file can't be read ({error})") from None
    return {**shipped_schemes(), **parse_schemes(text, own.name)}


def scheme(id: str, known: dict[str, Scheme] | None = None) -> Scheme:
    """A scheme by its id. Raises BadInput with the nearest known one."""
    every = shipped_schemes() if known is None else known
    if id not in every:
        raise BadInput(f"there is no scheme {id!r}{did_you_mean(id, every)}")
    return every[id]
