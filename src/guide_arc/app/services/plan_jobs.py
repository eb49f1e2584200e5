"""What is read and done of plans off the window's thread. Each function is a job's work: (library,
progress, …)."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import Any, NamedTuple

from guide_arc.app.contract.job import Progress
from guide_arc.core.planning.ahead import with_weeks
from guide_arc.core.planning.board import Week, board_of
from guide_arc.core.planning.copying import CopiedSessions
from guide_arc.core.planning.plan import Knowledge, Override, Plan
from guide_arc.core.planning.practice import ClientFacts
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.file_names import file_name_part
from guide_arc.lazily import lazily
from guide_arc.library import own_schemes
from guide_arc.library.blocks import Applied, Block, blocks
from guide_arc.library.blocks import apply_block as put_into_plans
from guide_arc.library.blocks import keep_block as put_block
from guide_arc.library.changes import Changes
from guide_arc.library.clients import Clients
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.planning import (
    PlanSheet,
    keep_plan,
    keep_preference,
    knowledge,
    plan_of_client,
    read_plan,
    sheet_of,
)
from guide_arc.library.practice import facts_of_clients
from guide_arc.library.store import Library
from guide_arc.library.undoing import Done, do

with lazily():
    from guide_arc.reports.session_out import calendar, write_session


class BlocksAndClients(NamedTuple):
    blocks: tuple[Block, ...]
    clients: tuple[str, ...]


def practice(library: Library, progress: Progress) -> tuple[ClientFacts, ...]:
    """The days of every client, for their week next to one another."""
    progress(0.0)
    return facts_of_clients(library)


def blocks_and_clients(library: Library, progress: Progress) -> BlocksAndClients:
    """The blocks that are kept, and the clients that one may be put into."""
    progress(0.0)
    clients = Clients(library)
    return BlocksAndClients(tuple(blocks(clients)), tuple(sorted(c.name for c in clients.all())))


def keep_block(
    library: Library, progress: Progress, name: str, sessions: CopiedSessions
) -> Changes:
    """Keep weeks under a name."""
    progress(0.0)
    return do(library, lambda session: put_block(session, name, sessions)).changes


def apply_block(
    library: Library,
    progress: Progress,
    sessions: CopiedSessions,
    clients: tuple[str, ...],
    monday: date,
) -> Done[Applied]:
    """Put a block into the plans of clients, in one transaction."""
    progress(0.0)
    done = {one.name: one.trained for one in facts_of_clients(library)}
    known = OwnStandards(library).catalogue().ids()
    return do(
        library, lambda session: put_into_plans(session, sessions, clients, monday, done, known)
    )


def write_all(library: Library, progress: Progress, clients: tuple[str, ...], folder: Path) -> int:
    """The next session's sheet and the calendar of every client, a folder for each; how many
    sheets. progress : may raise to stop; each file is whole or not there"""
    coach, written = library.setting("coach"), 0
    for i, name in enumerate(clients):
        progress(i / max(len(clients), 1))
        plan, known = plan_of_client(library, name), knowledge(library, name)
        ahead = [s.on for s in plan.sessions if s.on >= known.today and s.lines]
        if not ahead:
            continue
        own = folder / file_name_part(name)
        own.mkdir(mode=0o700, parents=True, exist_ok=True)
        sheets = [sheet_of(plan, known, day) for day in ahead]
        write_session(sheets[0], own / f"{ahead[0].isoformat()}.pdf", coach)
        write_atomic(own / "sessions.ics", calendar(sheets, coach), mode=0o600)
        written += 1
    return written


def names(library: Library, progress: Progress) -> list[str]:
    """The clients, those in need first."""
    progress(0.0)
    return [c.name for c in Clients(library).all()]


def read(library: Library, progress: Progress, client: str, on: date | None) -> PlanSheet:
    progress(0.0)
    return read_plan(library, client, on)


def keep(
    library: Library,
    progress: Progress,
    client: str,
    plan: Plan,
    on: date | None,
    since: Plan | None,
    known: Knowledge | None,
) -> tuple[PlanSheet, str]:
    """Keep a plan, and show a session of it; with what another window planned otherwise meanwhile.
    since : as in `keep_plan`; known : what the plan is based on, if it was just read; otherwise it
    is read"""
    progress(0.0)
    kept = keep_plan(library, client, plan, since)
    return sheet_of(kept.plan, known or knowledge(library, client), on), kept.words


def prefer(
    library: Library, progress: Progress, client: str, standard: str, own: Override | None, on: date
) -> PlanSheet:
    """Keep a preference, or forget it, and show the session again."""
    progress(0.0)
    keep_preference(library, client, standard, own)
    return read_plan(library, client, on)


def weeks(library: Library, progress: Progress, client: str, count: int) -> Plan:
    """The plan with sessions for the weeks ahead."""
    progress(0.0)
    return with_weeks(plan_of_client(library, client), knowledge(library, client), count)


def keep_scheme(library: Library, progress: Progress, id: str, fields: dict[str, Any]) -> str:
    """Keep a scheme of the coach's own; the file's text before it."""
    progress(0.0)
    return own_schemes.keep_scheme(library, id, fields)


def put_schemes_back(library: Library, progress: Progress, text: str) -> None:
    progress(0.0)
    own_schemes.put_back(library, text)


def board(library: Library, progress: Progress, client: str) -> tuple[Week, ...]:
    """The client's weeks, with the session that would be next."""
    progress(0.0)
    plan, known = plan_of_client(library, client), knowledge(library, client)
    sheet = sheet_of(plan, known)
    return board_of(plan, known, None if sheet.kept else sheet.session)


def print_session(
    library: Library, progress: Progress, client: str, on: date, target: Path
) -> Path:
    """The session's sheet as PDF, HTML and CSV."""
    progress(0.0)
    return write_session(read_plan(library, client, on), target, library.setting("coach"))


def send(library: Library, progress: Progress, client: str, on: date, target: Path) -> int:
    """Calendar entries of the sessions from a day on; how many there are."""
    plan, known = plan_of_client(library, client), knowledge(library, client)
    days = sorted({on, *(s.on for s in plan.sessions if s.on >= on)})
    sheets = []
    for i, day in enumerate(days):
        progress(i / len(days))
        sheets.append(sheet_of(plan, known, day))
    write_atomic(target, calendar(sheets, library.setting("coach")), mode=0o600)
    return len(sheets)
