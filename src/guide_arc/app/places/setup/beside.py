"""Other kits and other exercises next to the setup."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from guide_arc.app.places.setup.document import BesideWay, SetupDocument
from guide_arc.app.places.setup.meaning import MeaningLine
from guide_arc.core.mechanics.compare import Beside, as_hard, kits_beside
from guide_arc.core.mechanics.kit import FreeWeight
from guide_arc.core.mechanics.path_load import load_along, loaded_joint, own_kit
from guide_arc.core.model.errors import BadInput
from guide_arc.core.simulate.on_path import path_of
from guide_arc.drawings.setup_sheet import LoadRing
from guide_arc.drawings.shapes import Role

_WAYS: Final[tuple[BesideWay, ...]] = ("", "peak", "kilograms")
_ROLES: Final[tuple[Role, ...]] = ("muted", "actual", "guide", "near", "faint")
_DUMBBELL: Final = FreeWeight(10.0, "dumbbell")


def next_beside(doc: SetupDocument) -> SetupDocument:
    return replace(doc, beside=_WAYS[(_WAYS.index(doc.beside) + 1) % len(_WAYS)])


def rings(doc: SetupDocument) -> tuple[LoadRing, ...]:
    """The kits that are side by side: a free weight, this setup, the found one; or those
    that were asked for."""
    load, found = doc.load, doc.found_setup
    if load is None or load.curve.hardest is None:
        return ()
    if doc.beside:
        return tuple(
            LoadRing(one.words, one.load, role)
            for one, role in zip(_kits(doc), _ROLES, strict=False)
        )
    out = (
        []
        if isinstance(doc.kit, FreeWeight)
        else [LoadRing("dumbbell", load_along(doc.path, _DUMBBELL), "muted")]
    )
    out.append(LoadRing("now", load, "actual"))
    if found is not None:
        out.append(LoadRing("found", found.load, "guide"))
    return tuple(out)


def beside_says(doc: SetupDocument) -> tuple[MeaningLine, ...]:
    """What of each kit is as hard as this one, and of the exercises that are kin to it."""
    if doc.beside != "peak":
        return ()
    told = [f"{one.words} {one.amount}" for one in _kits(doc)]
    hands, bars = "; ".join(told[:3]), "; ".join(told[3:])
    out = []
    if told:
        more = f"{bars[:1].upper()}{bars[1:]}." if bars else ""
        out.append(MeaningLine("ok", f"As hard, {_peak_nm(doc):.0f} N·m: {hands}.", more))
    kin = _kin(doc)
    if kin:
        out.append(
            MeaningLine("ok", "As hard in another exercise, to start with:", f"{'; '.join(kin)}.")
        )
    return tuple(out)


def _peak_nm(doc: SetupDocument) -> float:
    load = doc.load
    return load.curve.hardest.nm if load is not None and load.curve.hardest is not None else 0.0


def _kits(doc: SetupDocument) -> tuple[Beside, ...]:
    peak_nm = _peak_nm(doc)
    if not doc.beside or doc.kit is None or peak_nm <= 0.0:
        return ()
    return kits_beside(doc.path, doc.kit, peak_nm if doc.beside == "peak" else None)


def _kin(doc: SetupDocument) -> list[str]:
    plan, peak_nm, out = doc.plan, _peak_nm(doc), []
    for other in doc.known.kin if doc.known else ():
        if plan is None or peak_nm <= 0.0 or loaded_joint(other) != loaded_joint(plan):
            continue
        try:
            path = path_of(other, doc.stature_m, joint=loaded_joint(other))
            kg = as_hard(path, own_kit(other, path), peak_nm)
        except BadInput:
            continue
        if kg is not None:
            out.append(f"{other.name} {kg:.1f} kg")
    return out
