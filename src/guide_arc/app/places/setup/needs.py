"""What the setup takes of the program."""

from __future__ import annotations

from typing import Protocol

from guide_arc.app.contract.app import Closes, Coloured, Refreshes, Says, Undoes
from guide_arc.app.contract.job import Runs


class SetupNeeds(Says, Runs, Undoes, Refreshes, Coloured, Closes, Protocol):
    """All of it is of the contract."""
