"""Four weeks for six clients in the real window: `./run dev python bench/six_clients.py`.

On the demo library: for each client the plan is opened, a session is proposed and the first one
taken, four weeks are planned; then all sheets and calendars are written at once. Prints how many
keys and clicks that takes, how long the program works, and how long it is for a coach who needs
three seconds for each key.
"""

from __future__ import annotations

import tempfile
import time
from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QApplication

from guide_arc.app.main import application
from guide_arc.app.places.plan.propose_dialog import ProposeDialog
from guide_arc.library.demo import ensure_demo_library
from hands import Hands, take_apart

SECONDS_A_KEY = 3.0


def main() -> None:
    app = application()
    folder = Path(tempfile.mkdtemp(prefix="six-clients-"))
    ensure_demo_library(folder / "library")
    settings = QSettings(str(folder / "window.ini"), QSettings.Format.IniFormat)
    window = Hands(folder / "library", settings)
    keys, begun = 1, time.perf_counter()
    window.do("go.plan")
    plan = window.of("plan").model
    names = plan.doc.names
    planned: dict[str, int] = {}
    for name in names:
        while plan.doc.client != name:
            window.do("plan.client")
            keys += 1
        window.do("plan.propose")
        QApplication.processEvents()
        dialogs = [d for d in window.shell.findChildren(ProposeDialog) if d.isVisible()]
        if dialogs:
            dialogs[-1].buttons[0].click()
            window.settle()
        window.do("plan.four")
        keys += 3
        sheet = plan.doc.sheet
        planned[name] = len(sheet.plan.sessions) if sheet else 0
    out = folder / "out"
    out.mkdir()
    window.of("plan").many.write_all(names, out)
    window.settle()
    keys += 4  # the menu, its entry, the folder, Enter
    program_s = time.perf_counter() - begun
    calendars = {
        name: (out / name / "sessions.ics").read_text().count("BEGIN:VEVENT")
        for name in names
        if (out / name / "sessions.ics").exists()
    }
    sheets = sum(
        (out / name / "session.pdf").exists() or bool(list((out / name).glob("*.pdf")))
        for name in calendars
    )
    take_apart(window)
    app.quit()
    print(f"{len(names)} clients; sessions planned: {planned}")
    print(f"{sheets} sheets; entries in calendars: {calendars}")
    print(f"{keys} keys and clicks; the program works for {program_s:.0f} s")
    print(f"at {SECONDS_A_KEY:g} s a key: {(keys * SECONDS_A_KEY + program_s) / 60:.1f} minutes")


if __name__ == "__main__":
    main()
