"""Files that are well made and yet wrong: values of another kind, of another size, nested without
end, half characters."""

from __future__ import annotations

import json
import random
import re
from typing import Any

# As they stand in a JSON file; what is no JSON at all is among them on purpose.
JSON_VALUES = [
    "null",
    "true",
    "false",
    "0",
    "-1",
    "1e999",
    "-1e999",
    "NaN",
    "Infinity",
    "1e-400",
    "9" * 400,
    "-" + "9" * 5000,
    "9" * 20,
    "1.5",
    '""',
    '"\\ud800"',
    '"\\udfff\\u0000"',
    '"\\u202e\\u2066"',
    '"\\u001b[31m"',
    '"NaN"',
    '"1e999"',
    '"' + "x" * 70_000 + '"',
    "[]",
    "{}",
    "[[]]",
    '[{"a": [{"a": []}]}]',
    "[" * 50 + "]" * 50,
    "[" * 5000 + "]" * 5000,
    "[" * 200_000,
    '{"a":' * 2000 + "1" + "}" * 2000,
    '{"__class__": "x"}',
    "[null, NaN]",
    "3.0000000000000004",
    "[1, 2, 3, 4, 5, 6, 7, 8]",
    '["left", "left"]',
    "2147483648",
    "-0.0",
]
CELLS = [
    "",
    "nan",
    "inf",
    "-inf",
    "1e999",
    "9" * 400,
    "-1",
    "0",
    "x",
    "\ud7ff",
    "\u202e",
    "\x1b[2J",
    '"',
    '""',
    "1;2",
    "1,2",
    "0x10",
    "１２",
    "1_000",
    " 1 ",
    "+",
    "1e",
    "\x00",
]
TOML_VALUES = [
    "nan",
    "inf",
    "-inf",
    "9" * 400,
    "0",
    "-1",
    "true",
    "''",
    '"\\u202e"',
    "[]",
    "{}",
    "[[]]",
    "1979-05-27",
    '"x"',
    "[" * 3000 + "]" * 3000,
    "[" * 100_000,
    "0x7fffffffffffffff",
    '"' + "y" * 70_000 + '"',
    "[1, 'a']",
    "1e308",
    "-0.0",
    "{ a = 1 }",
    "9223372036854775807",
]


def awkward_json(text: str, rng: random.Random) -> bytes:
    """A JSON document with some of its values, anywhere in it, changed to awkward ones."""
    document = json.loads(text)
    marks: dict[str, str] = {}
    for i in range(rng.choice((1, 1, 1, 2, 4))):
        mark = f"@{i}@{rng.randrange(10**9)}@"
        marks[f'"{mark}"'] = rng.choice(JSON_VALUES)
        document = _placed(document, mark, rng)
    out = json.dumps(document)
    for mark, value in marks.items():
        out = out.replace(mark, value)
    return out.encode("utf-8", "surrogatepass")


def _placed(node: Any, mark: str, rng: random.Random) -> Any:
    if isinstance(node, dict) and node and rng.random() < 0.9:
        key = rng.choice(list(node))
        action = rng.random()
        if action < 0.06:
            return {k: v for k, v in node.items() if k != key}
        if action < 0.1:
            return {**node, f"{key}x": mark}
        return {**node, key: _placed(node[key], mark, rng)}
    if isinstance(node, list) and node and rng.random() < 0.9:
        at = rng.randrange(len(node))
        return [*node[:at], _placed(node[at], mark, rng), *node[at + 1 :]]
    return mark


def awkward_table(text: str, rng: random.Random) -> bytes:
    """A table of which some cells are awkward: more often in its head than its share of the
    lines."""
    lines = text.split("\n")
    for _ in range(rng.choice((1, 1, 2, 5))):
        at = rng.randrange(min(len(lines), 14)) if rng.random() < 0.6 else rng.randrange(len(lines))
        cells = re.split(r"([,\t:])", lines[at])
        cells[rng.randrange(len(cells))] = rng.choice(CELLS)
        lines[at] = "".join(cells)
    return "\n".join(lines).encode("utf-8", "surrogatepass")


def awkward_toml(text: str, rng: random.Random) -> bytes:
    """A TOML file of which some values, keys or whole tables are others."""
    lines = text.split("\n")
    keyed = [i for i, line in enumerate(lines) if "=" in line]
    for _ in range(rng.choice((1, 1, 2, 4))):
        at = rng.choice(keyed)
        key = lines[at].partition("=")[0]
        kind = rng.random()
        if kind < 0.75:
            lines[at] = f"{key}= {rng.choice(TOML_VALUES)}"
        elif kind < 0.85:
            lines[at] = ""
        elif kind < 0.92:
            lines.insert(at, f"[[{key.strip() or 'x'}]]")
        else:
            lines[at] = f"{'a.' * rng.choice((2, 50, 5000))}b = 1"
    return "\n".join(lines).encode("utf-8", "surrogatepass")
