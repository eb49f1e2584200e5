"""The forms that the library has had, and the steps from each to the next."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Final

from guide_arc.lazily import lazily

with lazily():
    from alembic import command
    from alembic.config import Config

if TYPE_CHECKING:
    from sqlalchemy import Connection

FORMS: Final = ("0001", "0002", "0003", "0004", "0005", "0006", "0007", "0008")


def bring_to_newest(connection: Connection) -> None:
    """Bring a library up to the newest form, over this connection and within its transaction."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent).replace("%", "%%"))
    config.attributes["connection"] = connection
    command.upgrade(config, "head")
