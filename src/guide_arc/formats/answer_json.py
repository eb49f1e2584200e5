"""What a client answers on their page: a small file, or the same as a code in a message.

The file is JSON with `format`, `body` (JSON as text) and `sum`. The page holds a key that is not in
the answer; `sum` is the SHA-256 of key and body (as UTF-8), so an answer that was changed after it
was written does not match. The code is `set-answer:` and the file in URL-safe base64.
"""

from __future__ import annotations

import base64
import binascii
import hashlib
import hmac
import json
import math
import re
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Final

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.plain_text import visible

_ANSWER_FORMAT: Final = "set-answer/1"
CODE: Final = "set-answer:"
# An answer is a few hundred bytes; a file larger than this is none.
MOST_BYTES: Final = 64_000
_CODE: Final = re.compile(rf"{CODE}\s*([A-Za-z0-9_\-=\s]+)")
_TOKEN: Final = re.compile(r"[0-9a-f]{32}")
_SUM: Final = re.compile(r"[0-9a-f]{64}")
_MOST_SETS: Final = 30
_MOST_PLACES: Final = 30
_MOST_PLACE: Final = 60
_MOST_WORDS: Final = 2000
_MOST_KG: Final = 1000.0
_MOST_REPS: Final = 500
_MOST_RESERVE: Final = 20
_DAY_H: Final = 24.0


@dataclass(frozen=True)
class AnsweredSet:
    """A set that was done since the page was sent. load_kg : None for the body alone"""

    load_kg: float | None
    reps: int


@dataclass(frozen=True)
class Answer:
    """One answer.

    page : the token of the page that it was written on; made : when, by the phone's clock
    hurt, felt : places of the body; in_reserve : reps left in the set of the page
    sleep_h : hours of the last night; body, sum : as they were sent
    """

    page: str
    made: datetime
    hurt: tuple[str, ...]
    felt: tuple[str, ...]
    in_reserve: int | None
    sets: tuple[AnsweredSet, ...]
    sleep_h: float | None
    words: str
    body: str
    sum: str

    def is_intact(self, key: str) -> bool:
        """Whether it is as the page with this key wrote it."""
        return hmac.compare_digest(sum_of(key, self.body), self.sum)


def sum_of(key: str, body: str) -> str:
    """The check sum of an answer's body, in hexadecimal."""
    return hashlib.sha256(f"{key}\n{body}".encode()).hexdigest()


def is_answer(data: bytes) -> bool:
    """Whether a file or message looks like an answer, damaged or not."""
    start = data[:MOST_BYTES]
    return _ANSWER_FORMAT.encode() in start.replace(b"\\/", b"/") or CODE.encode() in start


def read_answer(text: str) -> Answer:
    """The answer in a file's or message's text. Raises BadInput with what is wrong."""
    if len(text.encode()) > MOST_BYTES:
        raise BadInput("the answer is too large to be one; ask the client to send it again")
    code = _CODE.search(text)
    if code is not None:
        text = _decoded(code[1])
    try:
        outer = json.loads(text)
        body, own_sum = outer["body"], outer["sum"]
        if outer["format"] != _ANSWER_FORMAT or not _SUM.fullmatch(own_sum):
            raise ValueError("another format")
        return _answer(json.loads(body), body, own_sum)
    except (ValueError, KeyError, TypeError, OverflowError, RecursionError):
        raise BadInput(
            "the answer is damaged; ask the client to send it again from the page"
        ) from None


def _decoded(code: str) -> str:
    compact = "".join(code.split()).rstrip("=")
    try:
        return base64.b64decode(compact + "=" * (-len(compact) % 4), b"-_").decode()
    except (binascii.Error, UnicodeDecodeError):
        raise BadInput(
            "the answer's code is not complete; ask the client to copy all of it again"
        ) from None


def _answer(found: dict[str, Any], body: str, own_sum: str) -> Answer:
    page, made = found["page"], datetime.fromisoformat(found["made"])
    sets, words = found.get("sets", []), found.get("words", "")
    if not _TOKEN.fullmatch(page) or made.tzinfo is not None:
        raise ValueError("no token of a page, or no local time")
    if not isinstance(sets, list) or len(sets) > _MOST_SETS:
        raise ValueError("no list of sets")
    if not isinstance(words, str) or len(words) > _MOST_WORDS:
        raise ValueError("no words")
    return Answer(
        page=page,
        made=made,
        hurt=_places(found.get("hurt", [])),
        felt=_places(found.get("felt", [])),
        in_reserve=_whole(found.get("left"), _MOST_RESERVE),
        sets=tuple(_set(one) for one in sets),
        sleep_h=_number(found.get("sleep"), _DAY_H),
        words=visible(words).strip(),
        body=body,
        sum=own_sum,
    )


def _places(found: object) -> tuple[str, ...]:
    if not isinstance(found, list) or len(found) > _MOST_PLACES:
        raise ValueError("no list of places")
    if not all(isinstance(p, str) and 0 < len(p) <= _MOST_PLACE for p in found):
        raise ValueError("no place")
    return tuple(dict.fromkeys(visible(p).strip() for p in found if p.strip()))


def _set(found: dict[str, Any]) -> AnsweredSet:
    reps = _whole(found["reps"], _MOST_REPS)
    if reps is None:
        raise ValueError("no reps")
    return AnsweredSet(_number(found.get("kg"), _MOST_KG), reps)


def _number(found: object, most: float) -> float | None:
    if found is None:
        return None
    if not isinstance(found, int | float) or isinstance(found, bool):
        raise ValueError("no number")
    if not math.isfinite(found) or not 0.0 <= found <= most:
        raise ValueError("out of range")
    return float(found)


def _whole(found: object, most: int) -> int | None:
    number = _number(found, most)
    if number is not None and number != int(number):
        raise ValueError("no whole number")
    return None if number is None else int(number)


def answer_file(key: str, body: dict[str, object]) -> str:
    """The file that a page with this key writes for a body; for the simulated client."""
    text = json.dumps(body, separators=(",", ":"), ensure_ascii=False)
    return _file(text, sum_of(key, text))


def answer_text(answer: Answer) -> str:
    """An answer's file as it came."""
    return _file(answer.body, answer.sum)


def _file(body: str, own_sum: str) -> str:
    return json.dumps({"format": _ANSWER_FORMAT, "body": body, "sum": own_sum})


def answer_code(file: str) -> str:
    """The same as a code to copy."""
    return CODE + base64.urlsafe_b64encode(file.encode()).decode().rstrip("=")
