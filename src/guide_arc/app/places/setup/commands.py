"""What can be done with a setup."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Final

from guide_arc.app.contract.command import Command

if TYPE_CHECKING:
    from guide_arc.app.places.setup.place import SetupPlace
    from guide_arc.app.services.program import Program

    Run = Callable[[Program, SetupPlace], None]


def _some(place: SetupPlace) -> bool:
    return place.model.state is not None


def _moves(place: SetupPlace) -> bool:
    return place.model.can_move


def _found(place: SetupPlace) -> bool:
    return place.model.found_setup is not None


def _place(act: Callable[[SetupPlace], Any]) -> Run:
    return lambda _program, place: act(place)


P = "setup"
COMMANDS: Final = (
    Command("setup.up", "A hole up", "Setup", ("Up",), "The next hole of the column", _place(lambda p: p.model.notch(1)), P, _moves),
    Command("setup.down", "A hole down", "Setup", ("Down",), "The hole below", _place(lambda p: p.model.notch(-1)), P, _moves),
    Command("setup.near", "Half a shoe nearer", "Setup", ("Left",), "Nearer to the column", _place(lambda p: p.model.step(-0.15)), P, _moves),
    Command("setup.far", "Half a shoe away", "Setup", ("Right",), "Farther from the column", _place(lambda p: p.model.step(0.15)), P, _moves),
    Command("setup.out", "Half a shoe outward", "Setup", ("Shift+Right",), "The column farther out", _place(lambda p: p.model.aside(0.15)), P, _moves),
    Command("setup.in", "Half a shoe inward", "Setup", ("Shift+Left",), "The column farther in", _place(lambda p: p.model.aside(-0.15)), P, _moves),
    Command("setup.on", "On along the lift", "Setup", ("]",), "The arm farther along", _place(lambda p: p.model.along(10)), P, _some),
    Command("setup.back", "Back along the lift", "Setup", ("[",), "The arm back", _place(lambda p: p.model.along(-10)), P, _some),
    Command("setup.wish", "Hardest where?", "Setup", ("W",), "Stretched, middle, shortened, even, or no wish", _place(lambda p: p.model.next_wish()), P, _some),
    Command("setup.slack", "No slack", "Setup", ("N",), "Wish for no slack, or not", _place(lambda p: p.model.toggle("no_slack")), P, _some),
    Command("setup.plane", "In the arm's plane", "Setup", ("P",), "Wish for a pull in the arm's plane, or not", _place(lambda p: p.model.toggle("in_plane")), P, _some),
    Command("setup.spare", "Spare a joint", "Setup", ("J",), "Elbow, wrist, both, or none", _place(lambda p: p.model.next_spare()), P, _some),
    Command("setup.find", "Find the setup", "Setup", ("F",), "What comes nearest to the wish in this room", _place(lambda p: p.model.find()), P, _some),
    Command("setup.next", "Next setup found", "Setup", ("Tab",), "Go through what was found", _place(lambda p: p.model.step_found(1)), P, _found),
    Command("setup.use", "Stand like that", "Setup", ("Return", "Enter"), "Take the found setup", _place(lambda p: p.model.use_found()), P, _found),
    Command("setup.keep", "Keep for the client…", "Setup", ("S",), "Under a name, with its words", _place(lambda p: p.ask_to_keep()), P, _some),
    Command("setup.open", "A kept setup…", "Setup", ("O",), "One of this client's kept setups", _place(lambda p: p.ask_for_kept()), P, lambda p: bool(p.model.kept)),
    Command("setup.room", "The room…", "Setup", ("R",), "Holes, distances and benches that there are", _place(lambda p: p.ask_for_room()), P, _some),
    Command("setup.measure-band", "Measure a band…", "Setup", ("B",), "Hang weights on it and write down its length at each", _place(lambda p: p.ask_to_measure_band()), P, _some),
    Command("setup.band", "A measured band…", "Setup", ("Shift+B",), "One of the bands that were measured", _place(lambda p: p.ask_for_band()), P, lambda p: _some(p) and bool(p.bands.measured)),
    Command("setup.column", "Another column", "Setup", ("C",), "The next of the room's columns, with its own holes", _place(lambda p: p.model.rooms.next_column()), P, lambda p: _moves(p) and len(p.model.rooms.training.columns) > 1),
    Command("setup.chains", "The room's chains…", "Setup", ("Shift+C",), "Hang chains on the bar", _place(lambda p: p.ask_for_chains()), P, lambda p: _some(p) and bool(p.model.rooms.training.chains)),
    Command("setup.load", "Weight…", "Setup", ("K",), "Kilograms on the kit; a cable's pulleys and friction", _place(lambda p: p.ask_for_load()), P, _some),
    Command("setup.machine", "The machine's curve…", "Setup", ("Shift+K",), "What it asks at the hand over the range", _place(lambda p: p.ask_for_curve()), P, lambda p: p.on_machine),
    Command("setup.beside", "Kits beside one another", "Setup", ("A",), "Dumbbell, cable, band, chains and anchored bar on this motion: to the same peak, then ten kilograms of each", _place(lambda p: p.model.beside.next()), P, _some),
    Command("setup.joints", "Every joint", "Setup", ("T",), "What shoulder, elbow, wrist and trunk carry, with the shoulder's parts", _place(lambda p: p.model.joints.toggle()), P, _some),
    Command("setup.school", "Another school's way", "Setup", ("G",), "The arm as the next school of this exercise has it", _place(lambda p: p.model.way.next_school()), P, lambda p: _some(p) and len(p.model.way.plan.schools) > 1),
    Command("setup.bend", "The elbow more bent", "Setup", ("E",), "Held ten degrees more bent all along the lift, and what that is worth in kilograms", _place(lambda p: p.model.way.bend(10.0)), P, _some),
    Command("setup.straighten", "The elbow straighter", "Setup", ("Shift+E",), "Held ten degrees straighter all along the lift", _place(lambda p: p.model.way.bend(-10.0)), P, _some),
    Command("setup.usual", "The usual setup", "Setup", ("Backspace",), "As the standard puts it", _place(lambda p: p.model.usual()), P, _some),
    Command("setup.rep", "The rep or the standard's path", "Setup", ("M",), "Stand the setup against the recorded rep, or against the path that is asked", _place(lambda p: p.model.turn_to_rep()), P, lambda p: p.model.rep is not None),
    Command("setup.view", "Front, side, top", "View", ("V",), "Look from another side", _place(lambda p: p.next_look()), P, _some),
)  # fmt: skip
