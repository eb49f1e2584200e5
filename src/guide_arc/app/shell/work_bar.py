"""One bar for whatever runs, with Stop: of the job that it names, or of one that is chosen."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QMenu, QProgressBar, QPushButton, QWidget

from guide_arc.app.services.jobs import JobRunner, Running

_WIDE = 150


class WorkBar(QWidget):
    """Hidden while nothing runs that has words."""

    def __init__(self, jobs: JobRunner) -> None:
        super().__init__()
        self.jobs = jobs
        self.words, self.bar, self.stop = QLabel(), QProgressBar(), QPushButton("Stop")
        self.words.setObjectName("hint")
        self.bar.setRange(0, 1000)
        self.bar.setTextVisible(False)
        self.bar.setFixedWidth(_WIDE)
        self.bar.setAccessibleName("How far the work is")
        self.stop.setObjectName("small")
        self.stop.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.stop.clicked.connect(self._stop)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        for widget in (self.words, self.bar, self.stop):
            row.addWidget(widget)
        self.hide()
        jobs.changed.connect(self.refresh)

    def refresh(self) -> None:
        shown = self.jobs.shown
        self.setVisible(bool(shown))
        if not shown:
            return
        first = shown[0]
        words = f"Stopping: {first.job.words}" if first.stopping else first.job.words
        more = f" · {len(shown) - 1} more" if len(shown) > 1 else ""
        self.words.setText(f"{words}{more}")
        self.bar.setValue(round(1000 * first.share))
        self.stop.setText("Stop" if len(shown) == 1 else "Stop…")
        self.stop.setEnabled(not all(r.stopping for r in shown))
        self.stop.setToolTip(
            f"Stop: {first.job.words}" if len(shown) == 1 else "Choose what to stop"
        )

    def menu(self) -> QMenu:
        """What runs, to choose what is stopped."""
        menu = QMenu(self)
        for running in self.jobs.shown:
            action = menu.addAction(f"Stop: {running.job.words}")
            assert action is not None
            action.setEnabled(not running.stopping)
            action.triggered.connect(lambda _on, r=running: self._stop_one(r))
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        return menu

    def _stop(self) -> None:
        shown = self.jobs.shown
        if len(shown) == 1:
            self._stop_one(shown[0])
        elif shown:
            menu = self.menu()
            corner = self.stop.mapToGlobal(QPoint(0, 0))
            menu.popup(corner - QPoint(0, menu.sizeHint().height()))

    def _stop_one(self, running: Running) -> None:
        running.stop()
        self.refresh()
