"""The form on a client's page: its figure, its script, and the policy that allows no network."""

from __future__ import annotations

import base64
import hashlib
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Final

from markupsafe import Markup

# Without a network: the page's own script, and what is written in the page itself.
_POLICY: Final = (
    "default-src 'none'; script-src 'sha256-{sum}'; style-src 'unsafe-inline'; font-src data:;"
    " img-src data:; base-uri 'none'; form-action 'none'"
)
# Half of a body below the head, from the neck down the arm and up again, then down the leg: how far
# out of the middle, and how far down.
_HALF: Final = (
    *((7, 44), (8, 56), (24, 61), (40, 66), (50, 78), (55, 102), (61, 130), (69, 160), (73, 194)),
    *((61, 198), (53, 166), (44, 132), (38, 100), (33, 132), (36, 168), (34, 204), (29, 244)),
    *((26, 290), (9, 290), (7, 244), (3, 186)),
)


def _outline() -> str:
    """The path of a head and a body on a figure of 200 by 296."""
    around = [(100 + x, y) for x, y in _HALF] + [(100 - x, y) for x, y in reversed(_HALF)]
    body = " L".join(f"{x} {y}" for x, y in around)
    return f"M100 4 a17 20 0 1 0 0.01 0 z M{body} z"


@dataclass(frozen=True)
class Spot:
    """A place of the body to tap. name : with its side, for pain; muscle : as exercises name it;
    x, y, rx, ry : an ellipse on a figure of 200 by 296"""

    name: str
    muscle: str
    x: float
    y: float
    rx: float
    ry: float


def _pair(name: str, x: float, y: float, rx: float, ry: float, *, front: bool) -> list[Spot]:
    """A place on both sides: seen from the front, the left side is to the right."""
    left, right = (200.0 - x, x) if front else (x, 200.0 - x)
    return [
        Spot(f"left {name}", name, left, y, rx, ry),
        Spot(f"right {name}", name, right, y, rx, ry),
    ]


_FRONT: Final = (
    Spot("neck", "neck", 100, 54, 11, 8),
    *_pair("front shoulder", 64, 74, 12, 12, front=True),
    Spot("chest", "chest", 100, 88, 22, 13),
    *_pair("biceps", 54, 104, 9, 15, front=True),
    *_pair("elbow", 49, 132, 9, 9, front=True),
    *_pair("forearm", 43, 160, 8, 16, front=True),
    *_pair("wrist", 38, 188, 9, 8, front=True),
    Spot("belly", "abdominals", 100, 124, 20, 18),
    *_pair("hip", 82, 164, 11, 10, front=True),
    *_pair("knee", 82, 232, 11, 11, front=True),
)
_BACK: Final = (
    Spot("back of the neck", "neck", 100, 48, 10, 7),
    *_pair("top of the shoulder", 80, 62, 11, 8, front=False),
    *_pair("rear shoulder", 60, 78, 11, 11, front=False),
    Spot("upper back", "upper back", 100, 82, 20, 13),
    *_pair("lats", 84, 112, 11, 15, front=False),
    *_pair("triceps", 53, 106, 9, 15, front=False),
    *_pair("back of the elbow", 48, 134, 9, 9, front=False),
    *_pair("back of the forearm", 42, 162, 8, 16, front=False),
    Spot("lower back", "lower back", 100, 142, 20, 12),
    *_pair("buttock", 84, 174, 13, 12, front=False),
)
BODIES: Final = (("Front", _outline(), _FRONT), ("Back", _outline(), _BACK))


@cache
def script() -> Markup:
    """The form's script, for a `script` element."""
    text = resources.files("guide_arc.reports").joinpath("templates/answer.js").read_text("utf-8")
    return Markup(text)


@cache
def policy() -> str:
    """The content security policy of a page with the form."""
    digest = hashlib.sha256(str(script()).encode()).digest()
    return _POLICY.format(sum=base64.b64encode(digest).decode())
