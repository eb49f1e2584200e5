"""Keeping what the coach does, in order, off the window's thread; what could not be kept is tried
again."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Final, NamedTuple, TypeVar

from PyQt6.QtCore import QObject, pyqtSignal, pyqtSlot

from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.jobs import Opener

if TYPE_CHECKING:
    from guide_arc.library.store import Library

R = TypeVar("R")

TRY_AGAIN_S: Final = 2.0


class _Wish(NamedTuple):
    """write : returns the call of `heard` with its result"""

    words: str
    write: Callable[[Library], Callable[[], None]]
    text: str


class _News(QObject):
    # A callable, for the window's thread.
    call = pyqtSignal(object)


class Keeper(QObject):
    """Writes on a separate thread. A newer write of a key takes the older one's place while that
    waits.

    open_library : opens the library on the writing thread; once, and again after trouble
    hopeless : whether an error is permanent (the set is gone); it is reported and not retried

    trouble : a message on what can't be saved now, and why; empty when all is saved
    failed : a write that was dropped: (its words, its error)
    """

    trouble: Signal[str] = Signal()
    failed: Signal[str, Exception] = Signal()

    def __init__(
        self,
        open_library: Opener,
        hopeless: Callable[[Exception], bool] = lambda _error: False,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self._open, self._hopeless = open_library, hopeless
        self._waiting: OrderedDict[str, _Wish] = OrderedDict()
        self._news = _News()
        self._news.call.connect(self._hear)
        self._changed = threading.Condition()
        self._writing = self._stuck = self._ended = False
        self._thread: threading.Thread | None = None
        self.try_again_s = TRY_AGAIN_S

    def keep(
        self,
        key: str,
        words: str,
        write: Callable[[Library], R],
        heard: Callable[[R], None] | None = None,
        text: str = "",
    ) -> None:
        """Write something in the background; retried until it is written.

        words : names it in the message if it can't be written
        text : its full text, to be saved elsewhere in that case
        heard : called on the window's thread with the result of `write`
        """

        def written(library: Library) -> Callable[[], None]:
            result = write(library)
            return (lambda: heard(result)) if heard is not None else _nobody

        with self._changed:
            self._waiting.pop(key, None)
            self._waiting[key] = _Wish(words, written, text)
            if self._thread is None:
                self._thread = threading.Thread(target=self._run, name="keeper", daemon=True)
                self._thread.start()
            self._changed.notify_all()

    @property
    def pending(self) -> list[str]:
        """What is not kept yet, in words."""
        with self._changed:
            return [wish.words for wish in self._waiting.values()]

    @property
    def unkept(self) -> str:
        """What is not kept yet, all of it as text."""
        with self._changed:
            return "\n\n".join(f"{w.words}\n{w.text}".strip() for w in self._waiting.values())

    def waits(self, key: str) -> bool:
        """Whether something of a key is still to be written."""
        with self._changed:
            return key in self._waiting

    @property
    def idle(self) -> bool:
        with self._changed:
            return not self._waiting and not self._writing

    def wait(self, most_s: float = 5.0) -> bool:
        """Wait until all is kept, or can't be kept now; whether it is."""
        with self._changed:
            self._changed.wait_for(
                lambda: self._stuck or (not self._waiting and not self._writing), most_s
            )
            return not self._waiting and not self._writing

    def wait_for_kept(self) -> None:
        """On another thread: what was kept before it reads is to be found there."""
        self.wait()

    def end(self) -> None:
        """Write what can still be written, and stop."""
        with self._changed:
            self._ended = True
            self._changed.notify_all()
        if self._thread is not None:
            self._thread.join(10.0)
            self._thread = None

    # On the writing thread

    def _run(self) -> None:
        library: Library | None = None
        try:
            while True:
                with self._changed:
                    self._changed.wait_for(lambda: bool(self._waiting) or self._ended)
                    if not self._waiting or (self._ended and self._stuck):
                        return
                    key, wish = next(iter(self._waiting.items()))
                    self._writing = True
                error: Exception | None = None
                hear = _nobody
                try:
                    if library is None:
                        library = self._open()
                    hear = wish.write(library)
                except Exception as trouble:
                    error = trouble
                hopeless = error is not None and self._hopeless(error)
                with self._changed:
                    self._writing = False
                    if (error is None or hopeless) and self._waiting.get(key) is wish:
                        del self._waiting[key]
                    was_stuck = self._stuck
                    self._stuck = error is not None and not hopeless
                    if self._stuck and self._waiting.get(key) is wish:
                        self._waiting.move_to_end(key)  # the others get their turn
                    stuck = self._stuck
                    self._changed.notify_all()
                if error is None:
                    self._news.call.emit(hear)
                if error is not None:
                    if library is not None:
                        library.close()
                        library = None
                    self._news.call.emit(partial(self._failed, wish.words, error, hopeless))
                elif was_stuck:
                    self._news.call.emit(lambda: self.trouble.emit(""))
                if stuck:
                    with self._changed:
                        self._changed.wait_for(lambda: self._ended, self.try_again_s)
        finally:
            if library is not None:
                library.close()

    # On the window's thread

    @pyqtSlot(object)
    def _hear(self, call: Callable[[], None]) -> None:
        call()

    def _failed(self, words: str, error: Exception, hopeless: bool) -> None:
        if hopeless:
            self.failed.emit(words, error)
            return
        why = getattr(error, "strerror", None) or getattr(error, "orig", None) or error
        self.trouble.emit(
            f"Not saved yet: {words} ({str(why).splitlines()[0]}). Nothing is lost; saving is"
            " tried again."
        )


def _nobody() -> None:
    """The caller does not need the result."""
