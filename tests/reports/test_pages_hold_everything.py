"""Pages, calendars and subtitles with hostile words in them: nothing is fetched, and no line breaks
out of its place."""

from __future__ import annotations

import http.server
import threading
from collections.abc import Iterator
from dataclasses import replace
from datetime import date
from pathlib import Path

import pytest
from icalendar import Calendar

from guide_arc.core.model.client import Client
from guide_arc.core.planning.plan import Plan, PlannedLine, PlannedSession
from guide_arc.formats.cues_vtt import Subtitle, vtt_text
from guide_arc.library.clients import Clients
from guide_arc.library.planning import keep_plan, read_plan
from guide_arc.library.store import Library
from guide_arc.reports.page import page_html
from guide_arc.reports.pdf import pdf_of
from guide_arc.reports.session_out import calendar


@pytest.fixture
def asked() -> Iterator[tuple[str, list[str]]]:
    """An address on this machine, and what was asked of it."""
    paths: list[str] = []

    class Listens(http.server.BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            paths.append(self.path)
            self.send_response(404)
            self.end_headers()

        def log_message(self, *_words: object) -> None:
            pass

    server = http.server.HTTPServer(("127.0.0.1", 0), Listens)
    thread = threading.Thread(target=server.serve_forever)
    thread.start()
    yield f"http://127.0.0.1:{server.server_port}", paths
    server.shutdown()
    thread.join()
    server.server_close()


def test_a_page_fetches_nothing_from_a_network_or_a_disk(
    asked: tuple[str, list[str]], tmp_path: Path
):
    address, paths = asked
    secret = tmp_path / "secret.css"
    secret.write_text("body { content: 'secret' }")
    html = (
        f"<link rel=stylesheet href='{address}/a.css'><link rel=stylesheet"
        f" href='{secret.as_uri()}'><style>@import url({address}/b.css); p {{ background:"
        f" url({address}/c.png) }}</style><p>Words<img src='{address}/d.png'><img"
        f" src='{secret.as_uri()}'><a rel=attachment href='{secret.as_uri()}'>x</a>"
    )
    pdf = pdf_of(html)
    assert pdf.startswith(b"%PDF")
    assert paths == []
    assert b"secret" not in pdf


def test_words_of_a_client_are_no_markup(
    library: Library, add_set, curl, asked: tuple[str, list[str]]
):
    address, paths = asked
    record = library.record(add_set("Ada Quill", reps=1))
    bad = f"<img src='{address}/x.png'><script>fetch('{address}/y')</script>"
    notes = replace(record.notes, note=bad)
    html = page_html(replace(record, client=bad), curl, notes, bad)
    assert "<script" not in html
    assert f"<img src='{address}" not in html
    assert "&lt;script&gt;" in html
    pdf_of(html)
    assert paths == []


def test_a_name_with_line_breaks_adds_no_line_to_a_calendar(library: Library):
    name = "Ada\r\nATTENDEE:mailto:x@example.org\r\nQuill"
    Clients(library).keep(Client(name))
    (kept,) = library.clients()
    assert "\n" not in kept  # a name has one line from the beginning
    plan = Plan().with_session(
        PlannedSession(date(2031, 3, 1), (PlannedLine("rope-pushdown", "locked"),))
    )
    keep_plan(library, kept, plan)
    sheet = read_plan(library, kept, date(2031, 3, 1))
    hostile = replace(
        sheet, known=replace(sheet.known, client=replace(sheet.known.client, name=name))
    )
    text = calendar([hostile], "Marit\r\nEND:VEVENT")
    (event,) = Calendar.from_ical(text).walk("VEVENT")
    assert "attendee" not in event
    assert b"\r\nATTENDEE" not in text
    assert text.count(b"\r\nEND:VEVENT") == 1


def test_a_cue_with_empty_lines_and_arrows_stays_one_cue():
    words = "Down\r\n\r\n00:01.000 --> 00:02.000\n\u2028<b>Up</b>\n\nNOTE x"
    text = vtt_text([Subtitle(0.5, 2.0, words)])
    blocks = text.rstrip("\n").split("\n\n")
    assert len(blocks) == 2  # the head, and one cue
    assert blocks[1].count("-->") == 1
    assert "<b>" not in text
