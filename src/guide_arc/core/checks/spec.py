"""What a check is, declared once in its own file as SPEC: all lists, tables and texts about checks
are derived from it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from guide_arc.core.checks.context import SetContext
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule

Check = Callable[[SetContext, CheckRule], list[Finding]]
Unit = Literal["deg", "pct"]


@dataclass(frozen=True)
class Moves:
    """What its fault moves on the simulated client, in proportion to how far each rep is done.

    channel : "lean", "aside" (to one side), "twist" in degrees, "shoulders", "hips" in trunk
    lengths
    per_amount : how much of it for one unit of the fault's amount"""

    channel: Literal["lean", "aside", "twist", "shoulders", "hips"]
    per_amount: float


@dataclass(frozen=True)
class Stays:
    """What should stay: its name, and the landmarks between which it is measured."""

    words: str
    between: tuple[str, str]


@dataclass(frozen=True)
class FromModel:
    """How its limit is read from a model set.

    way : "stays" within the model's own worst rep; "corridor" about the model's path; "tolerance"
        of the range; "arms" against one another; "usual" as standards have it
    within : what moves by less than this stayed still, in the limit's unit
    least : a limit is no tighter than people can hold it
    not_driven_by : the drives of which it is what should move
    keeps : it is kept where a few reps can't tell it but a client's set will
    limit : a fixed limit, for "usual"
    """

    way: Literal["stays", "corridor", "tolerance", "arms", "usual"]
    within: float = 0.0
    least: float = 0.0
    not_driven_by: tuple[str, ...] = ()
    keeps: bool = False
    limit: float | None = None


@dataclass(frozen=True)
class CheckSpec:
    """One check.

    unit : in which its limit is written; "drive": that of the driving measure
    order : its position in lists
    fault : what the amount of its simulated fault means; moves : what that moves, where that is
        simple
    shown_by : the faults that show as this check as well: one fact seen twice, so that one cue is
        enough
    needs : measures it uses in addition to the usual ones; needs_points : landmarks,
        `{side}_pulley`
    evidence : how it is drawn on the body (`drawings/evidence.py`); empty for what is about time
        alone
    outward : whether its limit is above (+1) or below (-1) the target, for the drawing
    picture : on the page: seen from the "side" or the "front", as bars over "time", or as the
        "range" of each rep
    praise : the page's text if it held; "*" for the standard's own praise
    least : the limit is the smallest allowed value, and smaller values are worse
    tempo_part : the part of the tempo that it holds a rep against
    too_heavy : it says that the weight rules the client rather than the other way round
    course : the name of its value in charts over weeks; empty if it is not
    has_target : its rule names a target (`kinematics/endpoints.py`)
    wish : the request to Setup if the setup is its cause: a field of `Wish`; empty if it is not
    ways : the ways in which it can be off, for which a rule may have words of their own"""

    name: str
    check: Check
    unit: Literal["deg", "pct", "drive"]
    order: int
    fault: str
    moves: Moves | None = None
    shown_by: tuple[str, ...] = ()
    needs: tuple[str, ...] = ()
    needs_points: tuple[str, ...] = ()
    evidence: str = ""
    outward: Literal[1, -1] = 1
    picture: Literal["", "side", "front", "time", "range"] = ""
    praise: str = ""
    least: bool = False
    tempo_part: Literal["", "lower_s", "lift_s"] = ""
    too_heavy: bool = False
    course: str = ""
    has_target: bool = False
    wish: Literal["", "no_slack", "in_plane"] = ""
    ways: tuple[str, ...] = ()
    stays: Stays | None = None
    from_model: FromModel | None = None

    def limit_unit(self, drive_unit: Unit) -> Unit:
        """The unit of its limit in a standard whose driving measure has that unit."""
        return drive_unit if self.unit == "drive" else self.unit
