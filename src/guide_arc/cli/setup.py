"""`guide-arc rig`, `pull` and `find-setup`: where the pull comes from, and finding the setup."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import Annotated

import numpy as np
import typer

from guide_arc.cli.options import standard_for
from guide_arc.cli.terminal import say
from guide_arc.core.mechanics.fibres import along_pct
from guide_arc.core.mechanics.find_setup import Setup, find_setups
from guide_arc.core.mechanics.kit import (
    AnchoredBar,
    Band,
    BodyWeight,
    Cable,
    Chain,
    FreeWeight,
    Kit,
    Place,
)
from guide_arc.core.mechanics.path_load import (
    USUAL_STATURE_M,
    PathLoad,
    PathOfArms,
    load_along,
    loaded_joint,
    own_kit,
)
from guide_arc.core.mechanics.recorded_load import LANDMARKS, RecordedLoad, recorded_load
from guide_arc.core.mechanics.statics import Curve
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import Side
from guide_arc.core.review.assess import review_with_body
from guide_arc.core.simulate.on_path import path_of
from guide_arc.formats.kit_json import pull_json, read_kit, read_wish, rig_json, setups_json
from guide_arc.formats.track_file import read_track
from guide_arc.standards.loader import standard as standard_of

# What is farther away is a slip of the pen.
_FARTHEST_M = 60.0
CARE = (
    "Estimates for comparing setups, no medical or safety limits. Check pin, cable, clips, band and"
    " anchor first; the kit's own instructions and rated limits come first."
)
Id = Annotated[str, typer.Option("--standard", help="The exercise standard.")]
KitFile = Annotated[
    Path | None, typer.Option("--kit", help="Kit as JSON; the standard's own when left out.")
]
Json = Annotated[bool, typer.Option("--json", help="Print as JSON.")]


def rig(
    standard: Id,
    school: Annotated[str | None, typer.Option(help="One of the standard's schools.")] = None,
    kit: KitFile = None,
    pulley: Annotated[
        str | None, typer.Option(help="X,Y,Z of the pulley or anchor in metres.")
    ] = None,
    load: Annotated[float | None, typer.Option(min=0, max=2000, help="Kilograms.")] = None,
    stature: Annotated[float, typer.Option(min=1.0, max=2.5, help="Metres.")] = USUAL_STATURE_M,
    bench: Annotated[
        float | None, typer.Option(min=-45, max=90, help="The bench's angle in degrees.")
    ] = None,
    json: Json = False,
) -> None:
    """Joint torque along the intended path: hardest point, slack zones, off the arm's plane."""
    plan = standard_of(standard, school)
    path = path_of(plan, stature, bench)
    own, body_kg = (own_kit(plan, path, load), None) if kit is None else read_kit(kit)
    if kit is not None and load is not None:
        own = _with_load(own, load)
    if pulley is not None:
        own = _with_pulley(own, pulley)
    found = load_along(path, own, body_kg)
    if json:
        say(rig_json(found, along_pct(plan)))
        return
    # If the elbow only bends along, the shoulder shows how hard a point of the lift is.
    first = loaded_joint(plan)
    loads = [found]
    if first != found.path.joint:
        loads.insert(0, load_along(path_of(plan, stature, bench, joint=first), own, body_kg))
    say(_rig_words(loads, plan.name))


def pull(
    track: Annotated[Path, typer.Argument(help="A landmark track in space.")],
    kit: Annotated[Path, typer.Option("--kit", help="Kit as JSON.")],
    standard: Annotated[
        str | None, typer.Option(help="The exercise standard; the track's own when left out.")
    ] = None,
    school: Annotated[str | None, typer.Option(help="One of the standard's schools.")] = None,
    json: Json = False,
    details: Annotated[
        bool,
        typer.Option("--details", help="In the JSON as well: uncertainty and momentum."),
    ] = False,
) -> None:
    """Joint torque of a recorded set, frame by frame and lift by lift."""
    recorded = read_track(track)
    plan = standard_for(recorded, standard, school)
    own, body_kg = read_kit(kit)
    if recorded.view != "none":
        raise BadInput(
            f"{track.name}: a picture does not show how far the kit stands; forces need a recording"
            " in space"
        )
    also = tuple(name for name in LANDMARKS if recorded.has(name))
    _review, body, repset = review_with_body(recorded, plan, also=also)
    found = recorded_load(body, repset, plan, own, body_kg)
    say(pull_json(found, details=details) if json else _pull_words(found))


def find_setup(
    standard: Id,
    wish: Annotated[Path, typer.Option("--wish", help="What is wished for, as JSON.")],
    kit: KitFile = None,
    school: Annotated[str | None, typer.Option(help="One of the standard's schools.")] = None,
    json: Json = False,
) -> None:
    """The setups that come nearest to a wish, within a room."""
    plan = standard_of(standard, school)
    wanted = read_wish(wish)
    benches: tuple[float | None, ...] = wanted.room.bench_deg or (None,)
    paths: dict[float | None, PathOfArms] = {b: path_of(plan, bench_deg=b) for b in benches}
    first = next(iter(paths.values()))
    own = own_kit(plan, first) if kit is None else read_kit(kit)[0]
    found = find_setups(paths, own, wanted)
    say(setups_json(found) if json else _setup_words(found))


def _with_load(kit: Kit, kg: float) -> Kit:
    if isinstance(kit, FreeWeight | Cable | Chain | BodyWeight):
        return replace(kit, kg=kg)
    if isinstance(kit, AnchoredBar):
        return replace(kit, plates_kg=kg)
    raise BadInput("--load changes kit that is given in kilograms; this one is not")


def _with_pulley(kit: Kit, text: str) -> Kit:
    """The pulley or anchor at one place, for both arms."""
    try:
        x, y, z = (float(part) for part in text.split(","))
    except ValueError:
        x = float("nan")
    if not all(abs(v) <= _FARTHEST_M for v in ((x, y, z) if x == x else (float("inf"),))):
        raise BadInput(
            f"the pulley {text!r} is not three numbers; write X,Y,Z in metres, such as 0.6,0.2,0.4"
        )
    spots: dict[Side, Place] = {"left": (x, y, z), "right": (x, y, z)}
    if isinstance(kit, Cable):
        return replace(kit, pulley_m=spots)
    if isinstance(kit, Band):
        return replace(kit, anchor_m=spots)
    raise BadInput("--pulley moves a cable's pulley or a band's anchor; this kit has none")


def _curve_words(curve: Curve) -> list[str]:
    lines = []
    if curve.hardest is not None:
        hard = curve.hardest
        lines.append(
            f"  hardest at {hard.angle_deg:.0f}° ({100 * hard.share:.0f} % of the way):"
            f" {hard.nm:.1f} N·m"
        )
        lines.append(f"  never below {curve.least_pct:.0f} % of that")
    slack = ", ".join(f"{100 * a:.0f} to {100 * b:.0f} %" for a, b in curve.slack)
    lines.append(f"  slack: {slack}" if slack else "  no slack")
    return lines


def _rig_words(loads: Sequence[PathLoad], name: str) -> str:
    """Joint by joint, the one that the exercise trains first."""
    first, *others = loads
    off = first.worst_off_plane_deg
    lines = [f"{name}, the {first.path.joint} works:", *_curve_words(first.curve)]
    for other in others:
        hardest = other.curve.hardest
        if hardest is not None:
            at = f"{hardest.nm:.1f} N·m, at {hardest.angle_deg:.0f}°"
            lines.append(f"  the {other.path.joint} beside it: at most {at}")
    if off is not None:
        lines.append(f"  off the arm's plane by up to {off:.0f}°")
    return "\n".join([*lines, "", CARE])


def _pull_words(load: RecordedLoad) -> str:
    lines = []
    for (rep, curve), momentum in zip(load.curves, load.momentum_pct, strict=True):
        side = "" if rep.side == "both" else f" {rep.side}"
        u = max(2.0 * float(np.nanmedian(load.against_u_nm[s])) for s in load.loads)
        lines += [
            f"rep {rep.number}{side}: {curve.mean_nm:.1f} ± {u:.1f} N·m on average",
            *_curve_words(curve),
        ]
        if np.isfinite(momentum):
            lines.append(
                f"  momentum: up to {momentum:.0f} % of the weight speeds up or slows down"
            )
    return "\n".join([*lines, "", CARE])


def _setup_words(setups: tuple[Setup, ...]) -> str:
    lines = []
    for i, s in enumerate(setups, 1):
        where = []
        if s.height_m is not None:
            where.append(
                f"pulley at {s.height_m:.2f} m, {s.distance_m:.2f} m away, {s.side_m:+.2f} m"
                " outward"
            )
        if s.bench_deg is not None:
            where.append(f"bench at {s.bench_deg:g}°")
        lines.append(f"{i}. {', '.join(where) or 'as it is'}")
        lines += _curve_words(s.curve)
        lines.append(f"  a hand's width moves the hardest point by {s.moves_deg:.0f}°")
    return "\n".join([*lines, "", CARE])
