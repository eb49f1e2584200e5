"""Whose set a file is, by its name: certain only when the name says it in full, otherwise a
proposal to be asked about.

A recording that goes to the wrong person is worse than a question, so a file's name is compared
word by word.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from guide_arc.core.model.track import IMAGE_VIEWS
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.standards.loader import shipped

_WORD: Final = re.compile(r"[^\W\d_]+")
# A capital after a small letter begins a word, as in AdaQuill.
_CAMEL: Final = re.compile(r"(?<=[^\W\d_A-Z])(?=[A-Z])")
# Words of file names that say nothing about a person.
_PLAIN: Final = frozenset(
    (
        "img",
        "vid",
        "video",
        "clip",
        "mov",
        "set",
        "sets",
        "rep",
        "reps",
        "kg",
        "lb",
        "copy",
        "new",
        "edited",
        "pxl",
        "dsc",
        "screen",
        "recording",
        "whatsapp",
        "signal",
        "telegram",
        "am",
        "pm",
        "at",
        "fps",
        "final",
        "cam",
        "camera",
        "phone",
    )
)


@dataclass(frozen=True)
class ClientName:
    """A client's name, and the words that were agreed on for their files."""

    name: str
    file_words: tuple[str, ...] = ()


@dataclass(frozen=True)
class Attribution:
    """client: whose a file is for certain, or empty; proposed: whose it may be, to be asked about,
    or empty"""

    client: str = ""
    proposed: str = ""


def attribution(file_name: str, clients: Sequence[ClientName]) -> Attribution:
    """Whose set a file is by its name.

    Certain: the words of exactly one client's full name, or of one agreed word, are next to each
    other in the name. Proposed: exactly one client shares a word with it. Part of a word never
    counts: `alice.csv` says nothing about Al."""
    words = words_of(_stem(file_name))
    named = [c.name for c in clients if _says(words, c)]
    if len(named) == 1:
        return Attribution(client=named[0], proposed=named[0])
    said = named or [c.name for c in clients if set(_own_words(c)) & set(words)]
    # Of "Cleo" and "Cleo Marsh" the longer name fits a file named cleo-marsh better.
    longest = [name for name in said if len(words_of(name)) == max(len(words_of(n)) for n in said)]
    return Attribution(proposed=longest[0] if len(longest) == 1 else "")


def token_of(file_name: str, clients: Sequence[ClientName], client: str) -> str:
    """The word of a file's name that could be agreed on for one client's files; empty if none
    can.

    It is the first word that is no exercise, no side, no usual word of a file's name, and of no
    other client.
    """
    others = {w for c in clients if c.name != client for w in _own_words(c)}
    for word in words_of(_stem(file_name)):
        if (
            len(word) > 1
            and word not in _PLAIN
            and word not in exercise_words()
            and word not in others
        ):
            return word
    return ""


def is_about(file_name: str, clients: Iterable[str]) -> bool:
    """Whether a file's name has a word of one of these clients' names."""
    words = set(words_of(file_name))
    return any(words & set(words_of(client)) for client in clients)


def names_in(text: str, clients: Iterable[str]) -> bool:
    """Whether a text, such as a folder's path, has the full name of one of these clients, word by
    word."""
    words = words_of(text)
    return any(_stands_in(words_of(client), words) for client in clients if words_of(client))


def words_of(text: str) -> list[str]:
    """The words of a name, in small letters without accents; figures and signs part them."""
    plain = unicodedata.normalize("NFKD", _CAMEL.sub(" ", text))
    letters = "".join(c for c in plain if not unicodedata.combining(c))
    return [word.casefold() for word in _WORD.findall(letters)]


@lru_cache(maxsize=1)
def exercise_words() -> frozenset[str]:
    """The words of exercises and of the sides they are filmed from: a client called Row is not
    named by `row.csv`."""
    return frozenset(word for id in (*shipped(), *IMAGE_VIEWS) for word in id.split("-"))


def _stem(file_name: str) -> str:
    return file_name.rpartition(".")[0] or file_name


def _own_words(client: ClientName) -> list[str]:
    return [*words_of(client.name), *(w for token in client.file_words for w in words_of(token))]


def _says(words: list[str], client: ClientName) -> bool:
    full = words_of(client.name)
    names = [full] if len(full) > 1 or not set(full) & exercise_words() else []
    return any(
        _stands_in(name, words) for name in (*names, *map(words_of, client.file_words)) if name
    )


def _stands_in(name: list[str], words: list[str]) -> bool:
    """Whether a name's words follow each other, in their order or with the last name first."""
    runs = [words[i : i + len(name)] for i in range(len(words) - len(name) + 1)]
    return name in runs or name[::-1] in runs
