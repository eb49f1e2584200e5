"""What the setup's place asks: kept setups, the room, and the kit."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtWidgets import (
    QWidget,
)

from guide_arc.app.places.setup.band_dialog import BandDialog
from guide_arc.app.places.setup.hanging import with_band, with_chains
from guide_arc.app.places.setup.kit_dialog import KitDialog
from guide_arc.app.places.setup.machine_dialog import MachineDialog
from guide_arc.app.places.setup.model import SetupModel
from guide_arc.app.places.setup.needs import SetupNeeds
from guide_arc.app.places.setup.room_dialog import RoomDialog
from guide_arc.app.widgets.asking import ask_which, ask_words, open_dialog, window_of
from guide_arc.app.widgets.picker import Pick, pick_one
from guide_arc.core.mechanics.band_table import MeasuredBand
from guide_arc.core.mechanics.kit import Cable, Chain, FreeWeight, Machine
from guide_arc.library.setups import KeptSetup


class SetupQuestions:
    """Dialogs over the place's window."""

    def __init__(self, program: SetupNeeds, model: SetupModel, parent: QWidget) -> None:
        self.program, self.model, self._parent = program, model, parent

    def ask_to_keep(self) -> None:
        doc = self.model.doc
        if not doc.client:
            self.program.say("Choose a client first: a setup is saved for one client.")
            return
        ask_words(
            self._parent, "Keep this setup", f"{doc.words}\n\nName:", "usual", self.model.keep
        )

    def ask_for_kept(self) -> None:
        kept = {str(k.id): k for k in self.model.doc.kept}
        pick_one(
            self._parent,
            "Kept setups",
            "Which one?",
            [Pick(id, f"{k.name}: {k.words}") for id, k in kept.items()],
            "Use",
            lambda id: self._use(kept[id]),
        )

    def _use(self, kept: KeptSetup) -> None:
        doc = replace(self.model.doc, kit=kept.kit, bench_deg=kept.bench_deg)
        self.model.set(f"The setup {kept.name}", doc)

    def ask_for_room(self) -> None:
        doc = self.model.doc
        name = doc.known.room_name if doc.known else ""
        dialog = RoomDialog(window_of(self._parent), doc.training_room, name)
        open_dialog(dialog, lambda: self.model.keep_room(dialog.room()))

    def ask_to_measure_band(self) -> None:
        dialog = BandDialog(window_of(self._parent))
        open_dialog(dialog, lambda: self.keep_band(dialog.name.text().strip(), dialog.band()))

    def keep_band(self, name: str, band: MeasuredBand) -> None:
        """Keep a band that was measured, and take it."""
        self.model.keep_band(name, band, lambda: self.use_band(band))

    def use_band(self, band: MeasuredBand) -> None:
        self.model.set("A measured band", with_band(self.model.doc, band))

    @property
    def measured_bands(self) -> dict[str, MeasuredBand]:
        known = self.model.doc.known
        return dict(known.bands) if known else {}

    def ask_for_band(self) -> None:
        bands = self.measured_bands
        ask_which(
            self._parent,
            "A measured band",
            "Which one?",
            list(bands),
            "Use",
            lambda name: self.use_band(bands[name]),
        )

    def ask_for_chains(self) -> None:
        chains = {c.name: c for c in self.model.doc.training_room.chains}
        ask_which(
            self._parent,
            "The room's chains",
            "Which ones?",
            list(chains),
            "Hang",
            lambda name: self.model.set(
                f"Chains: {name}", with_chains(self.model.doc, chains[name])
            ),
        )

    @property
    def on_machine(self) -> bool:
        return isinstance(self.model.doc.kit, Machine)

    def ask_for_curve(self) -> None:
        kit = self.model.doc.kit
        if isinstance(kit, Machine):
            dialog = MachineDialog(window_of(self._parent), kit)
            open_dialog(
                dialog,
                lambda: self.model.set(
                    "The machine's curve", replace(self.model.doc, kit=dialog.kit())
                ),
            )

    def ask_for_load(self) -> None:
        kit = self.model.doc.kit
        if not isinstance(kit, FreeWeight | Cable | Chain):
            self.program.say("This kit has no weight to set.")
            return
        dialog = KitDialog(window_of(self._parent), kit)
        open_dialog(
            dialog,
            lambda: self.model.set("Another weight", replace(self.model.doc, kit=dialog.kit())),
        )
