"""The bands that a coach measured, and one of them in place of the kit. Without Qt."""

from __future__ import annotations

from typing import TYPE_CHECKING

from guide_arc.app.contract.job import Job, on_library
from guide_arc.core.mechanics.band_table import MeasuredBand
from guide_arc.core.mechanics.kit import Band, Cable
from guide_arc.core.mechanics.path_load import placed
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import setup_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.setup.model import SetupModel
    from guide_arc.app.places.setup.needs import SetupNeeds

# Low and half a metre ahead of the feet, where the kit had no line of pull.
_USUAL_ANCHOR = (0.0, 0.1, 0.5)


class Bands:
    def __init__(self, setup: SetupModel, program: SetupNeeds) -> None:
        self._setup, self._program = setup, program

    @property
    def measured(self) -> dict[str, MeasuredBand]:
        known = self._setup.known
        return dict(known.bands) if known else {}

    def use(self, band: MeasuredBand) -> None:
        """A measured band in place of the kit, from where the pull comes now."""
        setup, kit = self._setup, self._setup.kit
        if setup.plan is None:
            return
        if isinstance(kit, Cable | Band):
            spots = kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m
        else:
            spots = placed(setup.path, _USUAL_ANCHOR)
        setup.set("A measured band", Band(spots, band.rest_m, None, band.table), setup.bench_deg)

    def keep(self, name: str, band: MeasuredBand) -> None:
        """Keep a band that was measured, and take it."""

        def kept(now: str) -> None:
            self._setup.refresh()
            self.use(band)
            also = (
                "" if now == name else f" Another window measured another {name}; both are there."
            )
            self._program.say(f"{now}: {band.newton_per_m:.0f} N a metre.{also}")

        work = on_library(setup_jobs.keep_band, name, band, self.measured.get(name))
        self._program.start(Job("", work, lane="now"), kept)
