"""Makes docs/setup.md with its pictures: `./run dev python tools/setup_doc.py`."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np

from guide_arc.core.mechanics.arm_way import with_bend
from guide_arc.core.mechanics.kit import AnchoredBar, Band, Cable, Chain, FreeWeight, Kit
from guide_arc.core.mechanics.path_load import PathLoad, PathOfArms, load_along, own_kit
from guide_arc.core.simulate.on_path import path_of
from guide_arc.drawings.palette import PAGE
from guide_arc.drawings.setup_sheet import LoadRing, torque_strip
from guide_arc.drawings.shapes import Role
from guide_arc.reports.svg import svg
from guide_arc.standards.loader import shipped, standard

DOCS = Path(__file__).resolve().parent.parent / "docs"
_ROLES: tuple[Role, ...] = ("actual", "guide", "muted", "near")


def drawn(name: str, loads: dict[str, PathLoad]) -> str:
    """A torque strip as a picture beside the page; its lines in the order of the table."""
    rings = tuple(
        LoadRing(words, load, role)
        for (words, load), role in zip(loads.items(), _ROLES, strict=False)
    )
    picture = svg(
        torque_strip(420, 150, rings, 100), PAGE, f"Torque over the lift: {', '.join(loads)}"
    )
    (DOCS / "pictures").mkdir(exist_ok=True)
    (DOCS / "pictures" / f"setup-{name}.svg").write_text(picture + "\n", encoding="utf-8")
    rows = [
        f"| {words} | {_hardest(load)} | {load.curve.least_pct:.0f} % | {_slack(load)} |"
        f" {_off(load)} |"
        for words, load in loads.items()
    ]
    head = [
        "| setup (ink, teal, dashed grey, ochre) | hardest | never below | slack | off the plane |",
        "| --- | --- | --- | --- | --- |",
    ]
    return "\n".join([f"![Torque over the lift](pictures/setup-{name}.svg)", "", *head, *rows])


def _hardest(load: PathLoad) -> str:
    hard = load.curve.hardest
    return (
        "–"
        if hard is None
        else f"{hard.nm:.1f} N·m at {hard.angle_deg:.0f}° ({100 * hard.share:.0f} % of the way)"
    )


def _slack(load: PathLoad) -> str:
    return ", ".join(f"{100 * a:.0f} to {100 * b:.0f} %" for a, b in load.curve.slack) or "none"


def _off(load: PathLoad) -> str:
    return "–" if load.worst_off_plane_deg is None else f"{load.worst_off_plane_deg:.0f}°"


def rear_raise() -> str:
    bent = path_of(standard("bent-rear-raise"))
    supported = path_of(standard("supported-rear-raise"))
    fly = standard("cross-cable-rear-fly")
    path = path_of(fly)
    loads = {
        "dumbbells, lying on a bench": load_along(supported, FreeWeight(5.0, "dumbbell")),
        "cables, standing": load_along(path, own_kit(fly, path, 5.0)),
        "dumbbells, bent over": load_along(bent, FreeWeight(5.0, "dumbbell")),
    }
    third = _share_at(loads["dumbbells, lying on a bench"], 0.5)
    return (
        drawn("rear-raise", loads)
        + "\n\nA dumbbell under the shoulder pulls along the arm: half of the peak is only there"
        f" from {100 * third:.0f} % of the way on, so the range starts where the weight begins to"
        " pull. Cables pull across from the first degree."
    )


def _share_at(load: PathLoad, part: float) -> float:
    nm = np.mean([a.against_nm for a in load.loads.values()], axis=0)
    return float(load.path.share[int(np.argmax(nm >= part * nm.max()))])


def lean() -> str:
    plan = standard("reclined-cable-press")
    out = {}
    for words, bench in (("leaning back 25°", 65.0), ("upright", 90.0)):
        path = path_of(plan, bench_deg=bench)
        kit = own_kit(plan, path_of(plan, bench_deg=65.0), 20.0)
        out[words] = _shoulder(path, kit)
    return (
        drawn("lean", out)
        + "\n\nThe same cables and the same arms; only the trunk stands up. Shown is the shoulder's"
        " moment."
    )


def _shoulder(path: PathOfArms, kit: Kit) -> PathLoad:
    """A press' moment about the shoulder, which does the work there."""
    from guide_arc.core.mechanics.statics import shoulder_axis  # noqa: PLC0415

    axis = {}
    for side, arm in path.arms.items():
        eye = np.broadcast_to(np.eye(3), (len(path.share), 3, 3))
        axis[side] = shoulder_axis(
            arm.elbow - arm.shoulder, eye, path.share, np.ones(len(path.share))
        )
    return load_along(replace(path, joint="shoulder", axis=axis), kit)


def forward_elbow() -> str:
    strict, rising = (
        path_of(standard("standing-barbell-curl", s))
        for s in ("locked-upper-arm", "rising-upper-arm")
    )
    bar = FreeWeight(30.0, "bar")
    loads = {
        "upper arm locked": load_along(strict, bar),
        "upper arm rising": load_along(rising, bar),
    }
    shoulder = {
        k: float(np.linalg.norm(v.loads["left"].shoulder_nm, axis=-1)[-1]) for k, v in loads.items()
    }
    elbow = {k: float(v.loads["left"].against_nm[-1]) for k, v in loads.items()}
    return (
        drawn("forward-elbow", loads)
        + "\n\n"
        + "\n".join(
            f"- {k}: at the top the elbow carries {elbow[k]:.1f} N·m and the shoulder"
            f" {shoulder[k]:.1f} N·m."
            for k in loads
        )
        + "\n- Of the two together the shoulder has "
        + " and ".join(
            f"{100 * shoulder[k] / (shoulder[k] + max(elbow[k], 0.0)):.0f} % with the {k}"
            for k in loads
        )
        + "."
    )


def prone_bench() -> str:
    weight = FreeWeight(10.0, "dumbbell")
    return drawn(
        "prone-bench",
        {
            "standing": load_along(path_of(standard("standing-barbell-curl")), weight),
            "face down, bench at 45°": load_along(path_of(standard("prone-incline-curl")), weight),
        },
    )


def crossed_cables() -> str:
    plan = standard("cross-cable-triceps-extension")
    path = path_of(plan)
    own = own_kit(plan, path, 10.0)
    assert isinstance(own, Cable)
    wide = replace(own, pulley_m={s: (2.2 * p[0], p[1], p[2]) for s, p in own.pulley_m.items()})
    return drawn(
        "crossed-cables",
        {
            "pulleys as the standard puts them": load_along(path, own),
            "pulleys more than twice as far out": load_along(path, wide),
        },
    )


def bent_elbow() -> str:
    plan = standard("lateral-raise-dumbbell")
    loads, kilograms = {}, {}
    for bend in (10.0, 40.0, 70.0):
        own = path_of(with_bend(plan, bend - plan.turn.elbow_deg))
        loads[f"elbow bent {bend:.0f}°"] = load_along(own, FreeWeight(10.0, "dumbbell"))
    straight = loads["elbow bent 10°"].curve.hardest
    assert straight is not None
    for words, load in loads.items():
        assert load.curve.hardest is not None
        kilograms[words] = 10.0 * straight.nm / load.curve.hardest.nm
    return (
        drawn("bent-elbow", loads)
        + "\n\nThe same torque as 10 kg at 10° of bend: "
        + ", ".join(f"{k} {v:.1f} kg" for k, v in kilograms.items())
        + "."
    )


def press_kits() -> str:
    path = path_of(standard("flat-bench-press"))
    hands = path.arms["left"].grip
    anchor = {
        s: (float(path.arms[s].grip[0, 0]), 0.0, float(hands[0, 2])) for s in ("left", "right")
    }
    bar = _shoulder(path, FreeWeight(60.0, "bar"))
    chain = _shoulder(path, Chain(40.0, 14.0, 1.6, 0.0))
    band = _shoulder(path, Band(anchor, 0.6, 420.0))  # type: ignore[arg-type]
    return drawn("press-kits", {"plates": bar, "chains": chain, "bands": band})


def levers() -> str:
    long, short = standard("cable-cross-raise-low"), standard("cable-short-lever-lift")
    return drawn(
        "levers",
        {
            p.name: load_along(path, own_kit(p, path, 10.0))
            for p in (long, short)
            for path in (path_of(p),)
        },
    )


def anchored() -> str:
    path = path_of(standard("anchored-bar-arc"))
    return drawn(
        "anchored",
        {
            "bar anchored on the floor": load_along(
                path, AnchoredBar((0.0, 0.0, 1.3), 20.0, 2.2, 5.0, 2.0)
            )
        },
    )


def opposed() -> str:
    """Whether each cable standard's own kit opposes the lift."""
    rows = []
    for id in shipped():
        plan = standard(id)
        if plan.pull != "cable":
            continue
        path = path_of(plan)
        load = (
            load_along(path, own_kit(plan, path))
            if path.joint == "shoulder"
            else _virtual(path, own_kit(plan, path))
        )
        if load.curve.hardest is not None:
            rows.append(
                f"| {plan.name} | {_hardest(load)} | {load.curve.least_pct:.0f} % |"
                f" {_slack(load)} |"
            )
    return "\n".join(
        ["| exercise | hardest | never below | slack |", "| --- | --- | --- | --- |", *rows]
    )


def _virtual(path: PathOfArms, kit: Kit) -> PathLoad:
    """Where the elbow and the shoulder turn together the pull is held against the hand's own way:
    the force against it, times the arm that turns."""
    load = load_along(path, kit)
    loads = {}
    for side, own in load.loads.items():
        arm = path.arms[side]
        rate = np.gradient(
            arm.grip, np.radians(np.abs(path.angle_deg - path.angle_deg[0])) + 1e-9, axis=0
        )
        loads[side] = replace(own, against_nm=-np.einsum("ti,ti->t", own.force_n, rate))
    from guide_arc.core.mechanics.statics import curve_of, mean_of  # noqa: PLC0415

    nm = mean_of([a.against_nm for a in loads.values()])
    return replace(load, loads=loads, curve=curve_of(path.share, path.angle_deg, nm))


def page() -> str:
    parts = [
        "# Setups, in numbers",
        "",
        (
            "Made by `./run dev python tools/setup_doc.py` from the standards' own paths, for a"
            " stature of 1.75 m, quasi-static. Estimates for comparing setups: no medical or safety"
            " limit. The kit's own instructions and rated limits come first."
        ),
        "",
        "## Why a dumbbell rear raise starts a third of the way up and a cable one does not",
        "",
        rear_raise(),
        "",
        "## What leaning back 25° changes in a cable press",
        "",
        lean(),
        "",
        "## How a forward elbow moves load from the elbow to the shoulder in a curl",
        "",
        forward_elbow(),
        "",
        "## Why a face-down 45° bench moves the hardest point up",
        "",
        prone_bench(),
        "",
        "## Where to set the pulleys so that crossed cables run in the forearms' plane",
        "",
        crossed_cables(),
        "",
        "## What a bent elbow is worth in kilograms in a raise",
        "",
        bent_elbow(),
        "",
        "## How chains and bands differ from plates in a press",
        "",
        press_kits(),
        "",
        "## A long lever against a short one for the upper chest",
        "",
        levers(),
        "",
        "## A bar that turns about the floor",
        "",
        anchored(),
        "",
        "## Every cable standard's own kit",
        "",
        (
            "Where elbow and shoulder turn together (rows, pulldowns, presses) the pull is held"
            " against the hand's own way, by virtual work; else against the working joint's."
        ),
        "",
        opposed(),
        "",
    ]
    return "\n".join(parts)


if __name__ == "__main__":
    (DOCS / "setup.md").write_text(page(), encoding="utf-8")
