"""The entry point: `guide-arc COMMAND …`. Bad input is one line on standard error and exit 2."""

from __future__ import annotations

import os
import sys
from collections.abc import Sequence

import typer

from guide_arc import __version__
from guide_arc.cli import (
    check,
    convert,
    demo,
    export,
    filming,
    import_files,
    install_desktop,
    landmarks,
    measure,
    planning,
    report,
    review,
    setup,
    simulate,
    simulate_upload,
    standards,
    team,
    window,
)
from guide_arc.cli.terminal import tell
from guide_arc.core.model.errors import BadInput

# The base of every complaint about a command line. Typer carries a copy of click of its own, so
# the class is found through one that typer does export.
_CommandLineError: type[Exception] = next(
    c for c in typer.BadParameter.__mro__ if c.__name__ == "ClickException"
)

app = typer.Typer(
    name="guide-arc",
    help="Measures a recorded training set against the intended path.",
    add_completion=False,
    no_args_is_help=False,
    pretty_exceptions_enable=False,
)
app.command("demo")(demo.demo)
app.command("measure")(measure.measure)
app.command("review")(review.review)
app.command("dose")(planning.dose)
app.command("weeks")(planning.weeks)
app.command("session")(planning.session)
app.command("report")(report.report)
app.command("rig")(setup.rig)
app.command("landmarks")(landmarks.landmarks)
app.command("pull")(setup.pull)
app.command("find-setup")(setup.find_setup)
app.command("standards")(standards.standards)
app.command("simulate")(simulate.simulate)
app.command("simulate-upload")(simulate_upload.simulate_upload)
app.command("check")(check.check)
app.command("team")(team.team)
app.command("convert")(convert.convert)
app.command("export")(export.export)
app.command("filming")(filming.filming)
app.command("import")(import_files.import_files)
app.command("install-desktop")(install_desktop.install_desktop)


@app.callback(invoke_without_command=True)
def start(
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
        raise typer.Exit(window.open_own_library(library))


def run(arguments: Sequence[str]) -> int:
    """Run one command line and return its exit code."""
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
