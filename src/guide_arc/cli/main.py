"""The entry point: `guide-arc COMMAND …`. Bad input is one line on standard error and exit 2."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable, Collection, Mapping, Sequence
from typing import Final, NamedTuple

import typer

from guide_arc import __version__
from guide_arc.cli.terminal import tell
from guide_arc.core.model.errors import BadInput
from guide_arc.lazily import lazily, load

with lazily():
    from guide_arc.cli.check import check
    from guide_arc.cli.convert import convert
    from guide_arc.cli.demo import demo
    from guide_arc.cli.export import export
    from guide_arc.cli.filming import filming
    from guide_arc.cli.import_files import import_files
    from guide_arc.cli.install_desktop import install_desktop
    from guide_arc.cli.landmarks import landmarks
    from guide_arc.cli.log import log
    from guide_arc.cli.measure import measure
    from guide_arc.cli.planning import dose, session, weeks
    from guide_arc.cli.report import report
    from guide_arc.cli.review import review
    from guide_arc.cli.setup import find_setup, pull, rig
    from guide_arc.cli.simulate import simulate
    from guide_arc.cli.simulate_upload import simulate_upload
    from guide_arc.cli.standards import standards
    from guide_arc.cli.team import team
    from guide_arc.cli.window import open_own_library


class Entry(NamedTuple):
    """A command. run : loaded only for the command that is called
    summary : the first line of its own help"""

    run: Callable[..., object]
    summary: str


COMMANDS: Final[Mapping[str, Entry]] = {
    "demo": Entry(
        demo,
        "Opens the demo library: a made-up touring company's sets, filmed by the simulated camera.",
    ),
    "import": Entry(
        import_files, "Take a folder of tracks and clips in, and review the tracks, on all cores."
    ),
    "review": Entry(
        review,
        "The whole review of a set: reps, phases, findings.",
    ),
    "report": Entry(
        report, "A client's progress: form against load, the weeks, what the cues did."
    ),
    "dose": Entry(dose, "The next prescription of one exercise, with its reasons."),
    "weeks": Entry(
        weeks, "Loads at which form held, trends that are more than scatter, and what each cue did."
    ),
    "log": Entry(
        log,
        "What was done without being filmed: note sets, take a table in, or print what is noted.",
    ),
    "session": Entry(session, "A session's length, time under tension, balance and warnings."),
    "filming": Entry(
        filming,
        "How to film exercises: the phone's side, distance and height, and the second view.",
    ),
    "landmarks": Entry(landmarks, "Landmarks of a clip as a track."),
    "measure": Entry(
        measure, "Every measure over time, with its standard uncertainty, one row per frame."
    ),
    "pull": Entry(pull, "Joint torque of a recorded set, frame by frame and lift by lift."),
    "rig": Entry(
        rig,
        "Joint torque along the intended path: hardest point, slack zones, off the arm's plane.",
    ),
    "find-setup": Entry(find_setup, "The setups that come nearest to a wish, within a room."),
    "standards": Entry(standards, "The exercise standards with id, name, kit, views and schools."),
    "convert": Entry(convert, "Read a landmark track in one form and write it in another."),
    "export": Entry(
        export,
        "Export every set, client and year as files that 'import' reads again.",
    ),
    "check": Entry(
        check,
        "Verify the library: its file, every recording by its bytes, what no set names.",
    ),
    "team": Entry(
        team,
        "Make a team's library in a PostgreSQL database.",
    ),
    "install-desktop": Entry(
        install_desktop, "Put the program with its icon among your desktop's applications."
    ),
    "simulate": Entry(simulate, "Record a set with the simulated camera, with its ground truth."),
    "simulate-upload": Entry(
        simulate_upload,
        "Simulated clients film sets and send them to a drop folder, each file bit by bit.",
    ),
}

# The base of every complaint about a command line. Typer contains its own copy of click, so the
# class is found through one that typer exports.
_CommandLineError: type[Exception] = next(
    c for c in typer.BadParameter.__mro__ if c.__name__ == "ClickException"
)


def application(words: Collection[str]) -> typer.Typer:
    """The commands that these words of a command line name, and of all others name and summary.

    One command is loaded, not twenty-one: most need SciPy or the library, and the list of them
    needs neither.
    """
    app = typer.Typer(
        name="guide-arc",
        help="Measures a recorded training set against the intended path.",
        add_completion=False,
        no_args_is_help=False,
        pretty_exceptions_enable=False,
    )
    app.callback(invoke_without_command=True)(_start)
    for name, entry in COMMANDS.items():
        if name in words:
            run = load(entry.run)
            assert callable(run)
            app.command(name)(run)
        else:
            app.command(name, help=entry.summary)(_not_called)
    return app


def _not_called() -> None:
    """Stands for a command in the list of them."""


def _start(
    context: typer.Context,
    version: bool = typer.Option(False, "--version", help="Print the version and stop."),
    library: str | None = typer.Option(
        None,
        help=(
            "Another library than your own: its folder, or a team's as"
            " postgresql://…?recordings=FOLDER."
        ),
    ),
) -> None:
    """Without a command: opens the application with your own library."""
    if version:
        typer.echo(f"guide-arc {__version__}")
    elif context.invoked_subcommand is None:
        raise typer.Exit(open_own_library(library))


def run(arguments: Sequence[str]) -> int:
    """Run one command line and return its exit code."""
    app = application(arguments)
    try:
        code = app(
            args=_library_after_command(arguments), prog_name="guide-arc", standalone_mode=False
        )
    except BadInput as error:
        return _bad(str(error))
    except typer.Exit as stop:
        return int(stop.exit_code)
    except (typer.Abort, KeyboardInterrupt):
        return _bad("stopped; nothing was written.", code=130)
    except _CommandLineError as error:
        return _bad(str(error.format_message()).replace("Value error, ", ""))  # type: ignore[attr-defined]
    except BrokenPipeError:
        sys.stderr.close()
        return 0
    return int(code) if isinstance(code, int) else 0


def _library_after_command(arguments: Sequence[str]) -> list[str]:
    """The arguments with a library that is named before the command named after it: both mean the
    same."""
    given: list[str] = []
    rest = list(arguments)
    while rest and rest[0].startswith("--library"):
        count = 1 if "=" in rest[0] else 2
        given, rest = [*given, *rest[:count]], rest[count:]
    if not given or not rest or rest[0].startswith("-"):
        return list(arguments)
    return [rest[0], *given, *rest[1:]]


def _bad(sentence: str, code: int = 2) -> int:
    """One line on standard error, whatever the sentence holds."""
    tell(f"guide-arc: {sentence}")
    return code


def main() -> None:
    os.umask(0o077)  # recordings of people's bodies are for nobody else on this machine
    sys.exit(run(sys.argv[1:]))


if __name__ == "__main__":
    main()
