"""Other kits and other exercises beside the setup. Without Qt."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final, Literal

from guide_arc.app.places.setup.meaning import Says
from guide_arc.core.mechanics.compare import Beside, as_hard, kits_beside
from guide_arc.core.mechanics.path_load import loaded_joint, own_kit
from guide_arc.core.model.errors import BadInput
from guide_arc.core.simulate.on_path import path_of
from guide_arc.drawings.setup_sheet import Ring

if TYPE_CHECKING:
    from guide_arc.app.places.setup.model import SetupModel

Way = Literal["", "peak", "kilograms"]
_WAYS: Final[tuple[Way, ...]] = ("", "peak", "kilograms")
_ROLES: Final = ("muted", "actual", "guide", "near", "faint")


class KitsBeside:
    """way : empty for the setup alone; kits that ask for the same peak, or ten kilograms of each"""

    def __init__(self, setup: SetupModel) -> None:
        self._setup = setup
        self.way: Way = ""

    def next(self) -> None:
        self.way = _WAYS[(_WAYS.index(self.way) + 1) % len(_WAYS)]
        self._setup.looked_anew()

    @property
    def peak_nm(self) -> float:
        load = self._setup.load
        return load.curve.hardest.nm if load is not None and load.curve.hardest is not None else 0.0

    def kits(self) -> tuple[Beside, ...]:
        kit = self._setup.kit
        if not self.way or kit is None or self.peak_nm <= 0.0:
            return ()
        return kits_beside(self._setup.path, kit, self.peak_nm if self.way == "peak" else None)

    def rings(self) -> tuple[Ring, ...]:
        return tuple(
            Ring(one.words, one.load, role)  # type: ignore[arg-type]
            for one, role in zip(self.kits(), _ROLES, strict=False)
        )

    def says(self) -> tuple[Says, ...]:
        """What of each kit is as hard as this one, and of the exercises that are kin to it."""
        if self.way != "peak":
            return ()
        told = [f"{one.words} {one.amount}" for one in self.kits()]
        hands, bars = "; ".join(told[:3]), "; ".join(told[3:])
        out = []
        if told:
            more = f"{bars[:1].upper()}{bars[1:]}." if bars else ""
            out.append(Says("ok", f"As hard, {self.peak_nm:.0f} N·m: {hands}.", more))
        kin = self._kin()
        if kin:
            out.append(
                Says("ok", "As hard in another exercise, to start with:", f"{'; '.join(kin)}.")
            )
        return tuple(out)

    def _kin(self) -> list[str]:
        setup, out = self._setup, []
        known, plan = setup.known, setup.plan
        for other in known.kin if known and plan else ():
            if plan is None or self.peak_nm <= 0.0 or loaded_joint(other) != loaded_joint(plan):
                continue
            try:
                path = path_of(other, setup.stature_m, joint=loaded_joint(other))
                kg = as_hard(path, own_kit(other, path), self.peak_nm)
            except BadInput:
                continue
            if kg is not None:
                out.append(f"{other.name} {kg:.1f} kg")
        return out
