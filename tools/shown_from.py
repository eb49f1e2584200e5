"""Writes the recordings that show each check of each standard in each school, as tried on the
simulated client: `./run dev python tools/shown_from.py` (half a minute)."""

from __future__ import annotations

import json
import sys
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT / "src"))

from guide_arc.standards.loader import shipped, standard
from guide_arc.standards.proof import shown_from

TABLE = ROOT / "src" / "guide_arc" / "standards" / "data" / "shown-from.json"


def of_school(pair: tuple[str, str]) -> dict[str, str]:
    return shown_from(standard(*pair))


if __name__ == "__main__":
    pairs = [(id, s.id) for id in shipped() for s in standard(id).schools]
    out: dict[str, dict[str, dict[str, str]]] = {}
    with ProcessPoolExecutor() as pool:
        for (id, school), found in zip(pairs, pool.map(of_school, pairs), strict=True):
            out.setdefault(id, {})[school] = found
    TABLE.write_text(json.dumps(out, indent=1) + "\n", encoding="utf-8")
