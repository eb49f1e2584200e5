"""A standard proposed from a model set: what moved becomes range and key poses, what stayed becomes
checks, the spread of the reps becomes the corridor.

The nearest standard of the catalogue lends what a recording can't show: muscle, kit, cautions,
words.
"""

from __future__ import annotations

import copy
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import Standard
from guide_arc.core.review.suggest import suggest
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.from_set.limits import keep_pace, set_checks, settle
from guide_arc.standards.from_set.movement import by_movement
from guide_arc.standards.from_set.poses import shape_poses
from guide_arc.standards.from_set.trial import cut_reps
from guide_arc.standards.loader import build
from guide_arc.standards.schema import SCHEMA_VERSION


@dataclass(frozen=True, eq=False)
class Proposal:
    """raw : the keys of the proposed file; standard : built from it
    review : the model set against it; reps : those of the model set that it rests on, of all whole
        ones
    stayed : what stayed still, by check name; notes : what the recording could not show
    like : the standard that lent the rest
    """

    raw: dict[str, Any]
    standard: Standard
    review: Review
    reps: tuple[Rep, ...]
    whole: tuple[Rep, ...]
    stayed: tuple[str, ...]
    notes: tuple[str, ...]
    like: Standard


def propose(
    body: Body,
    catalogue: Catalogue,
    *,
    id: str,
    name: str,
    like: str | None = None,
    chosen: Callable[[Rep], bool] | None = None,
    progress: Callable[[float], None] = lambda _share: None,
) -> Proposal:
    """Propose a standard from a measured model set.

    body : cleaned with all landmarks; like : the id of the standard to copy the rest from, else the
        nearest one; chosen : the model reps, else all full ones. Raises BadInput if no joint moves
        enough, or no rep is found."""
    progress(0.0)
    near = _nearest(body, catalogue, like)
    if near.across is not None:
        raise BadInput(
            "a movement that passes from side to side can't be read from a model set; "
            f"copy {near.name!r} and change it instead."
        )
    progress(0.4)
    raw = _skeleton(near, catalogue, id, name)
    notes: list[str] = []
    reps = by_movement(body, near, raw)
    progress(0.6)
    plan, repset = cut_reps(body, raw)
    used = tuple(r for r in repset.reps or reps if r.full and (chosen is None or chosen(r)))
    if not used:
        raise BadInput(
            "no whole rep was found to go by; choose another set, or mark its reps first."
        )
    shape_poses(body, raw, plan, used, near, catalogue.raw(near.id))
    keep_pace(raw, used)
    plan, repset = cut_reps(body, raw)
    used = tuple(r for r in repset.reps if r.full and (chosen is None or chosen(r))) or used
    whole = tuple(r for r in repset.reps if r.full)
    progress(0.75)
    stayed = set_checks(body, raw, plan, repset, near, catalogue)
    review = settle(body, raw, id)
    progress(1.0)
    if body.cleaned.track.view != "none":
        notes.append(
            f"From the {body.cleaned.track.view} only one plane is seen: "
            "the arm's path across it is taken from the nearest standard."
        )
        if used[0].measure != raw["drive"]:
            notes.append(
                "This view foreshortens the working joint: its range is the nearest standard's."
            )
    if len(used) < 3:
        notes.append(f"{len(used)} rep{'s' if len(used) > 1 else ''} say little about the spread.")
    return Proposal(
        raw=raw,
        standard=build(raw, f"{id}.toml"),
        review=review,
        reps=used,
        whole=whole,
        stayed=tuple(stayed),
        notes=tuple(notes),
        like=near,
    )


def _nearest(body: Body, catalogue: Catalogue, like: str | None) -> Standard:
    if like is not None:
        return catalogue.standard(like)
    choice = suggest(body, catalogue.every_school())
    if choice is None:
        raise BadInput("no arm is seen in this recording; a standard needs one.")
    return choice.best.standard


def _skeleton(near: Standard, catalogue: Catalogue, id: str, name: str) -> dict[str, Any]:
    raw = copy.deepcopy(catalogue.raw(near.id))
    raw.update(schema_version=SCHEMA_VERSION, id=id, name=name)
    raw["school"] = [
        {
            "id": "model-set",
            "name": "as the model set",
            "why": "Range, path, tempo and limits are those of the model set.",
            "choose_when": "The client is to move as in the model set.",
        }
    ]
    raw["holds"] = {}
    return raw
