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
        lambda p: p.model.move(moving.notched(p.model.doc, 1)),
        _moves,
    ),
    Command(
        "setup.down",
        "A hole down",
        "Setup",
        ("Down",),
        "The hole below",
        lambda p: p.model.move(moving.notched(p.model.doc, -1)),
        _moves,
    ),
    Command(
        "setup.near",
        "Half a shoe nearer",
        "Setup",
        ("Left",),
        "Nearer to the column",
        lambda p: p.model.move(moving.stepped(p.model.doc, -0.15)),
        _moves,
    ),
    Command(
        "setup.far",
        "Half a shoe away",
        "Setup",
        ("Right",),
        "Farther from the column",
        lambda p: p.model.move(moving.stepped(p.model.doc, 0.15)),
        _moves,
    ),
    Command(
        "setup.out",
        "Half a shoe outward",
        "Setup",
        ("Shift+Right",),
        "The column farther out",
        lambda p: _aside(p, 0.15),
        _moves,
    ),
    Command(
        "setup.in",
        "Half a shoe inward",
        "Setup",
        ("Shift+Left",),
        "The column farther in",
        lambda p: _aside(p, -0.15),
        _moves,
    ),
    Command(
        "setup.on",
        "On along the lift",
        "Setup",
        ("]",),
        "The arm farther along",
        lambda p: p.model.go_to(p.model.doc.at + 10),
        _some,
    ),
    Command(
        "setup.back",
        "Back along the lift",
        "Setup",
        ("[",),
        "The arm back",
        lambda p: p.model.go_to(p.model.doc.at - 10),
        _some,
    ),
    Command(
        "setup.wish",
        "Hardest where?",
        "Setup",
        ("W",),
        "Stretched, middle, shortened, even, or no wish",
        lambda p: p.model.want(wishing.next_hardest(p.model.doc.wish)),
        _some,
    ),
    Command(
        "setup.slack",
        "No slack",
        "Setup",
        ("N",),
        "Wish for no slack, or not",
        lambda p: p.model.want(wishing.flipped(p.model.doc.wish, "no_slack")),
        _some,
    ),
    Command(
        "setup.plane",
        "In the arm's plane",
        "Setup",
        ("P",),
        "Wish for a pull in the arm's plane, or not",
        lambda p: p.model.want(wishing.flipped(p.model.doc.wish, "in_plane")),
        _some,
    ),
    Command(
        "setup.spare",
        "Spare a joint",
        "Setup",
        ("J",),
        "Elbow, wrist, both, or none",
        lambda p: p.model.want(wishing.next_spare(p.model.doc.wish)),
        _some,
    ),
    Command(
        "setup.find",
        "Find the setup",
        "Setup",
        ("F",),
        "What comes nearest to the wish in this room",
        lambda p: p.model.find(),
        _some,
    ),
    Command(
        "setup.next",
        "Next setup found",
        "Setup",
        ("Tab",),
        "Go through what was found",
        _next_found,
        _found,
    ),
    Command(
        "setup.use",
        "Stand like that",
        "Setup",
        ("Return", "Enter"),
        "Take the found setup",
        lambda p: p.model.use_found(),
        _found,
    ),
    Command(
        "setup.keep",
        "Keep for the client…",
        "Setup",
        ("S",),
        "Under a name, with its words",
        lambda p: p.ask_to_keep(),
        _some,
    ),
    Command(
        "setup.open",
        "A kept setup…",
        "Setup",
        ("O",),
        "One of this client's kept setups",
        lambda p: p.ask_for_kept(),
        lambda p: bool(p.model.doc.kept),
    ),
    Command(
        "setup.room",
        "The room…",
        "Setup",
        ("R",),
        "Holes, distances and benches that there are",
        lambda p: p.ask_for_room(),
        _some,
    ),
    Command(
        "setup.measure-band",
        "Measure a band…",
        "Setup",
        ("B",),
        "Hang weights on it and write down its length at each",
        lambda p: p.ask_to_measure_band(),
        _some,
    ),
    Command(
        "setup.band",
        "A measured band…",
        "Setup",
        ("Shift+B",),
        "One of the bands that were measured",
        lambda p: p.ask_for_band(),
        lambda p: _some(p) and bool(p.measured_bands),
    ),
    Command(
        "setup.column",
        "Another column",
        "Setup",
        ("C",),
        "The next of the room's columns, with its own holes",
        lambda p: p.model.show(hanging.next_column(p.model.doc)),
        lambda p: _moves(p) and len(p.model.doc.training_room.columns) > 1,
    ),
    Command(
        "setup.chains",
        "The room's chains…",
        "Setup",
        ("Shift+C",),
        "Hang chains on the bar",
        lambda p: p.ask_for_chains(),
        lambda p: _some(p) and bool(p.model.doc.training_room.chains),
    ),
    Command(
        "setup.load",
        "Weight…",
        "Setup",
        ("K",),
        "Kilograms on the kit; a cable's pulleys and friction",
        lambda p: p.ask_for_load(),
        _some,
    ),
    Command(
        "setup.machine",
        "The machine's curve…",
        "Setup",
        ("Shift+K",),
        "What it asks at the hand over the range",
        lambda p: p.ask_for_curve(),
        lambda p: p.on_machine,
    ),
    Command(
        "setup.beside",
        "Kits beside one another",
        "Setup",
        ("A",),
        "Dumbbell, cable, band, chains and anchored bar on this motion: to the same peak, then ten"
        " kilograms of each",
        lambda p: p.model.show(next_beside(p.model.doc)),
        _some,
    ),
    Command(
        "setup.joints",
        "Every joint",
        "Setup",
        ("T",),
        "What shoulder, elbow, wrist and trunk carry, with the shoulder's parts",
        _every_joint,
        _some,
    ),
    Command(
        "setup.school",
        "Another school's way",
        "Setup",
        ("G",),
        "The arm as the next school of this exercise has it",
        lambda p: p.model.next_school(),
        _schools,
    ),
    Command(
        "setup.bend",
        "The elbow more bent",
        "Setup",
        ("E",),
        "Held ten degrees more bent all along the lift, and what that is worth in kilograms",
        lambda p: p.model.bend(10.0),
        _some,
    ),
    Command(
        "setup.straighten",
        "The elbow straighter",
        "Setup",
        ("Shift+E",),
        "Held ten degrees straighter all along the lift",
        lambda p: p.model.bend(-10.0),
        _some,
    ),
    Command(
        "setup.usual",
        "The usual setup",
        "Setup",
        ("Backspace",),
        "As the standard puts it",
        _usual,
        _some,
    ),
    Command(
        "setup.rep",
        "The rep or the standard's path",
        "Setup",
        ("M",),
        "Stand the setup against the recorded rep, or against the path that is asked",
        lambda p: p.model.show(p.model.doc.turned_to_rep()),
        lambda p: p.model.doc.rep is not None,
    ),
    Command(
        "setup.view",
        "Front, side, top",
        "View",
        ("V",),
        "Look from another side",
        lambda p: p.next_look(),
        _some,
    ),
)
