"""How the arm goes along the lift: as which school, and with the elbow bent otherwise than asked.
Without Qt."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from guide_arc.app.contract.history import Step
from guide_arc.app.places.setup.meaning import Says
from guide_arc.app.services.destinations import ToSetup
from guide_arc.core.mechanics.arm_way import with_bend
from guide_arc.core.mechanics.compare import as_hard
from guide_arc.core.mechanics.kit import Cable, FreeWeight
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard
from guide_arc.core.simulate.on_path import path_of

if TYPE_CHECKING:
    from guide_arc.app.places.setup.model import SetupModel
    from guide_arc.app.places.setup.needs import SetupNeeds


class ArmWay:
    """school : empty for the one that is preferred for the client; bend_deg : of the elbow, beyond
    what is asked"""

    def __init__(self, setup: SetupModel, program: SetupNeeds) -> None:
        self._setup, self._program = setup, program
        self.school, self.bend_deg = "", 0.0
        self._plan: tuple[Standard, float, Standard] | None = None

    def forget(self) -> None:
        self.school, self.bend_deg = "", 0.0

    @property
    def plan(self) -> Standard:
        """The standard as it is tried."""
        assert self._setup.known is not None
        asked = self._setup.known.plan
        # The same standard is handed out again: paths are kept by it.
        if self._plan is None or self._plan[0] is not asked or self._plan[1] != self.bend_deg:
            self._plan = asked, self.bend_deg, with_bend(asked, self.bend_deg)
        return self._plan[2]

    def next_school(self) -> None:
        plan = self.plan
        if len(plan.schools) < 2:
            self._program.say("This standard has one school.")
            return
        ids = [s.id for s in plan.schools]
        self.take_school(ids[(ids.index(plan.school.id) + 1) % len(ids)])

    def take_school(self, school: str) -> None:
        if self._setup.on_rep:
            self._setup.turn_to_rep()
        self.bend_deg = 0.0
        self._setup.choose(school=school)

    def bend(self, by_deg: float) -> None:
        """The elbow held more bent all along the lift, as a step of undo."""
        if self._setup.on_rep:
            self._program.say("This is how the rep was done: M shows the standard's own path.")
            return
        assert self._setup.known is not None
        asked, before = self._setup.known.plan, self.bend_deg
        after = before + by_deg
        try:
            with_bend(asked, after)
        except BadInput as error:
            words = str(error)
            self._program.say(f"{words[:1].upper()}{words[1:]}.")
            return

        def put(bend_deg: float) -> Callable[[], None]:
            def act() -> None:
                if self._setup.known is not None and self._setup.known.plan == asked:
                    self.bend_deg = bend_deg
                    self._setup.looked_anew()

            return act

        put(after)()
        self._program.did(
            Step("Bend the elbow", ToSetup(), put(before), put(after), same="setup/bend")
        )

    def says(self) -> tuple[Says, ...]:
        """What another bend of the elbow is worth in kilograms."""
        setup = self._setup
        load, kit, known = setup.load, setup.kit, setup.known
        if not self.bend_deg or known is None or load is None or load.curve.hardest is None:
            return ()
        asked = known.plan.turn.elbow_deg
        told = f"With the elbow bent {asked + self.bend_deg:.0f}° instead of {asked:.0f}°"
        as_asked = path_of(known.plan, setup.stature_m, setup.bench_deg, joint=load.path.joint)
        kg = as_hard(as_asked, kit, load.curve.hardest.nm) if kit is not None else None
        if not isinstance(kit, FreeWeight | Cable) or not kg:
            return (Says("ok", f"{told}.", "What it is worth in kilograms needs a weight."),)
        equal = kit.kg * kit.kg / kg
        return (
            Says(
                "ok",
                f"{told}, {equal:.1f} kg is as hard as {kit.kg:g} kg.",
                "Start with less than that." if equal > kit.kg else "",
            ),
        )
