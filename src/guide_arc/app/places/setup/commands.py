"""What can be done with a setup."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.command import Command
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.setup import hanging, moving, wishing
    from guide_arc.app.places.setup.beside import next_beside

if TYPE_CHECKING:
    from guide_arc.app.places.setup.place import SetupPlace


def _some(place: SetupPlace) -> bool:
    return place.model.doc.state is not None


def _moves(place: SetupPlace) -> bool:
    return place.model.doc.pull is not None


def _found(place: SetupPlace) -> bool:
    return place.model.doc.found_setup is not None


def _schools(place: SetupPlace) -> bool:
    plan = place.model.doc.plan
    return _some(place) and plan is not None and len(plan.schools) > 1


def _aside(place: SetupPlace, by_m: float) -> None:
    doc = place.model.doc
    place.model.move(moving.shifted(doc, (by_m, 0.0, 0.0), "setup/aside"))


def _next_found(place: SetupPlace) -> None:
    doc = place.model.doc
    if doc.found:
        place.model.show(wishing.choosing(doc, (doc.chosen + 1) % len(doc.found)))


def _every_joint(place: SetupPlace) -> None:
    doc = place.model.doc
    place.model.show(replace(doc, every_joint=not doc.every_joint))


def _usual(place: SetupPlace) -> None:
    doc = place.model.doc
    if doc.plan is not None:
        usual = replace(doc, kit=doc.usual_kit(), bench_deg=None)
        place.model.set("The usual setup", usual)


COMMANDS: Final[tuple[Command[SetupPlace], ...]] = (
    Command(
        "setup.up",
        "A hole up",
        "Setup",
        ("Up",),
        "The next hole of the column",
        run=lambda p: p.model.move(moving.notched(p.model.doc, 1)),
        when=_moves,
    ),
    Command(
        "setup.down",
        "A hole down",
        "Setup",
        ("Down",),
        "The hole below",
        run=lambda p: p.model.move(moving.notched(p.model.doc, -1)),
        when=_moves,
    ),
    Command(
        "setup.near",
        "Half a shoe nearer",
        "Setup",
        ("Left",),
        "Nearer to the column",
        run=lambda p: p.model.move(moving.stepped(p.model.doc, -0.15)),
        when=_moves,
    ),
    Command(
        "setup.far",
        "Half a shoe away",
        "Setup",
        ("Right",),
        "Farther from the column",
        run=lambda p: p.model.move(moving.stepped(p.model.doc, 0.15)),
        when=_moves,
    ),
    Command(
        "setup.out",
        "Half a shoe outward",
        "Setup",
        ("Shift+Right",),
        "The column farther out",
        run=lambda p: _aside(p, 0.15),
        when=_moves,
    ),
    Command(
        "setup.in",
        "Half a shoe inward",
        "Setup",
        ("Shift+Left",),
        "The column farther in",
        run=lambda p: _aside(p, -0.15),
        when=_moves,
    ),
    Command(
        "setup.on",
        "On along the lift",
        "Setup",
        ("]",),
        "The arm farther along",
        run=lambda p: p.model.go_to(p.model.doc.at + 10),
        when=_some,
    ),
    Command(
        "setup.back",
        "Back along the lift",
        "Setup",
        ("[",),
        "The arm back",
        run=lambda p: p.model.go_to(p.model.doc.at - 10),
        when=_some,
    ),
    Command(
        "setup.wish",
        "Hardest where?",
        "Setup",
        ("W",),
        "Stretched, middle, shortened, even, or no wish",
        run=lambda p: p.model.want(wishing.next_hardest(p.model.doc.wish)),
        when=_some,
    ),
    Command(
        "setup.slack",
        "No slack",
        "Setup",
        ("N",),
        "Wish for no slack, or not",
        run=lambda p: p.model.want(wishing.flipped(p.model.doc.wish, "no_slack")),
        when=_some,
    ),
    Command(
        "setup.plane",
        "In the arm's plane",
        "Setup",
        ("P",),
        "Wish for a pull in the arm's plane, or not",
        run=lambda p: p.model.want(wishing.flipped(p.model.doc.wish, "in_plane")),
        when=_some,
    ),
    Command(
        "setup.spare",
        "Spare a joint",
        "Setup",
        ("J",),
        "Elbow, wrist, both, or none",
        run=lambda p: p.model.want(wishing.next_spare(p.model.doc.wish)),
        when=_some,
    ),
    Command(
        "setup.find",
        "Find the setup",
        "Setup",
        ("F",),
        "What comes nearest to the wish in this room",
        run=lambda p: p.model.find(),
        when=_some,
    ),
    Command(
        "setup.next",
        "Next setup found",
        "Setup",
        ("Tab",),
        "Go through what was found",
        run=_next_found,
        when=_found,
    ),
    Command(
        "setup.use",
        "Stand like that",
        "Setup",
        ("Return", "Enter"),
        "Take the found setup",
        run=lambda p: p.model.use_found(),
        when=_found,
    ),
    Command(
        "setup.keep",
        "Keep for the client…",
        "Setup",
        ("S",),
        "Under a name, with its words",
        run=lambda p: p.asking.ask_to_keep(),
        when=_some,
    ),
    Command(
        "setup.open",
        "Saved setups…",
        "Setup",
        ("O",),
        "Use one of this client's saved setups",
        run=lambda p: p.asking.ask_for_kept(),
        when=lambda p: bool(p.model.doc.kept),
    ),
    Command(
        "setup.room",
        "The room…",
        "Setup",
        ("R",),
        "Available holes, distances and benches",
        run=lambda p: p.asking.ask_for_room(),
        when=_some,
    ),
    Command(
        "setup.measure-band",
        "Measure a band…",
        "Setup",
        ("B",),
        "Hang weights on it and write down its length at each",
        run=lambda p: p.asking.ask_to_measure_band(),
        when=_some,
    ),
    Command(
        "setup.band",
        "A measured band…",
        "Setup",
        ("Shift+B",),
        "One of the bands that were measured",
        run=lambda p: p.asking.ask_for_band(),
        when=lambda p: _some(p) and bool(p.asking.measured_bands),
    ),
    Command(
        "setup.column",
        "Another column",
        "Setup",
        ("C",),
        "The next of the room's columns, with its own holes",
        run=lambda p: p.model.show(hanging.next_column(p.model.doc)),
        when=lambda p: _moves(p) and len(p.model.doc.training_room.columns) > 1,
    ),
    Command(
        "setup.chains",
        "The room's chains…",
        "Setup",
        ("Shift+C",),
        "Hang chains on the bar",
        run=lambda p: p.asking.ask_for_chains(),
        when=lambda p: _some(p) and bool(p.model.doc.training_room.chains),
    ),
    Command(
        "setup.load",
        "Weight…",
        "Setup",
        ("K",),
        "Kilograms on the kit; a cable's pulleys and friction",
        run=lambda p: p.asking.ask_for_load(),
        when=_some,
    ),
    Command(
        "setup.machine",
        "The machine's curve…",
        "Setup",
        ("Shift+K",),
        "What it asks at the hand over the range",
        run=lambda p: p.asking.ask_for_curve(),
        when=lambda p: p.asking.on_machine,
    ),
    Command(
        "setup.beside",
        "Compare kits",
        "Setup",
        ("A",),
        "Dumbbell, cable, band, chains and anchored bar on this motion: to the same peak, then ten"
        " kilograms of each",
        run=lambda p: p.model.show(next_beside(p.model.doc)),
        when=_some,
    ),
    Command(
        "setup.joints",
        "Every joint",
        "Setup",
        ("T",),
        "What shoulder, elbow, wrist and trunk carry, with the shoulder's parts",
        run=_every_joint,
        when=_some,
    ),
    Command(
        "setup.school",
        "Another school's way",
        "Setup",
        ("G",),
        "The arm as the next school of this exercise has it",
        run=lambda p: p.model.next_school(),
        when=_schools,
    ),
    Command(
        "setup.bend",
        "The elbow more bent",
        "Setup",
        ("E",),
        "Held ten degrees more bent all along the lift, and what that is worth in kilograms",
        run=lambda p: p.model.bend(10.0),
        when=_some,
    ),
    Command(
        "setup.straighten",
        "The elbow straighter",
        "Setup",
        ("Shift+E",),
        "Held ten degrees straighter all along the lift",
        run=lambda p: p.model.bend(-10.0),
        when=_some,
    ),
    Command(
        "setup.usual",
        "The usual setup",
        "Setup",
        ("Backspace",),
        "As the standard puts it",
        run=_usual,
        when=_some,
    ),
    Command(
        "setup.rep",
        "The rep or the standard's path",
        "Setup",
        ("M",),
        "Compare with the recorded rep, or with the standard's own path",
        run=lambda p: p.model.show(p.model.doc.turned_to_rep()),
        when=lambda p: p.model.doc.rep is not None,
    ),
    Command(
        "setup.view",
        "Front, side, top",
        "View",
        ("V",),
        "Look from another side",
        run=lambda p: p.next_look(),
        when=_some,
    ),
)
