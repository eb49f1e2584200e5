"""Writes docs/sentences.md, every sentence a review can say: `./run dev python
tools/sentences_doc.py` (two minutes).

Each standard is reviewed in each school and from each view, clean and with each of its faults, on
either arm, with what is felt and with pain; what is said is gathered with its numbers taken out, so
that each kind of sentence stands once, with one example of where it is said.
"""

from __future__ import annotations

import re
import sys
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT / "tests")]

from faults_from_views import twice_the_limit
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import Settings
from guide_arc.core.review.assess import context_of, review_with_body
from guide_arc.core.review.causes import felt_spots
from guide_arc.core.review.figures import figures_of
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import shipped, standard

PAGE = ROOT / "docs" / "sentences.md"
VIEWS = ("none", "left", "right", "front", "back")
HEAD = """# What a review can say

Every kind of sentence, its numbers written `N`, with one place where it is said. Gathered by
`./run dev python tools/sentences_doc.py` from every standard in every school, in space and from every side, clean and
with each of its faults at twice the limit, with what was felt and with pain. `tests/test_sentences.py` holds each line
to the rules of plain English, and the page to what a few standards say today.
"""
_NUMBER = re.compile(r"(?<![\w-])[-−]?\d+(?:[.,]\d+)?")
_LISTS = re.compile(r"N(?:(?:, | and |–|-)N)+")

Said = tuple[str, str, str]


def plain(words: str) -> str:
    """A sentence with its numbers taken out."""
    return _LISTS.sub("N", _NUMBER.sub("N", words)).strip()


def said(review: Review, figures: object, where: str) -> Iterator[Said]:
    """(kind, sentence, where) of all that a review says."""
    for f in review.findings:
        if f.verdict == "cannot-tell":
            yield "Can't tell", f"{f.title}: {f.why}", where
        else:
            kind = {"ok": "Held", "near": "Near the limit", "off": "Off"}[f.verdict]
            yield kind, f"{f.title}: {f.says}", where
        if f.verdict == "off":
            yield "Why and cue", f"{f.title}: {f.matters} — {f.cue}", where
            for other in f.other_cues:
                yield "Other words", other, where
    for cause in review.causes:
        yield "Felt and measured", cause.words, where
    yield "Next time", review.next_time.reason, where
    yield "What would change it", review.next_time.then, where
    for doubt in review.trust.doubts:
        yield "Doubts", doubt, where
    if review.broke_down:
        yield "Over the set", review.broke_down.says, where
    for trend in getattr(figures, "trends", ()):
        if trend.sure:
            yield "Over the set", trend.says, where


def of_school(pair: tuple[str, str], views: tuple[str, ...] = VIEWS) -> list[Said]:
    """All that is said of one standard in one school."""
    id, school = pair
    plan = standard(id, school)
    out: dict[tuple[str, str], str] = {}
    for i, view in enumerate(views):
        rate, noise = (20.0, 0.0023) if view == "none" else (30.0, 1.0)
        faults: list[str] = ["", *(r.name for r in plan.checks)]
        # Faults in space and from the standard's own views; a clean set from everywhere.
        for fault in faults if view == "none" or view in plan.views else [""]:
            tempo, amount = twice_the_limit(plan, fault) if fault else (plan.tempo, 0.0)
            script = Script(
                reps=5 if fault else 12,
                tempo=tempo,
                opening_s=1.4,
                load_kg=20.0,
                faults={fault: amount} if fault else {},
            )
            track = perform(plan, script, Camera(view, rate, noise), 5).track  # type: ignore[arg-type]
            spots = felt_spots(plan)
            felt = (spots[(i + len(fault)) % len(spots)],)
            if fault == faults[-1]:
                felt = (f"{felt[0]}, sharp",)
            review, body, repset = review_with_body(
                track, plan, tempo, settings=Settings(felt=felt)
            )
            figures = figures_of(context_of(body, repset, plan, tempo))
            where = f"{id}, {school}, " + ("in space" if view == "none" else f"from the {view}")
            for kind, words, at in said(review, figures, where + (f", {fault}" if fault else "")):
                out.setdefault((kind, plain(words)), at)
    return [(kind, words, at) for (kind, words), at in out.items()]


def gathered(pairs: list[tuple[str, str]]) -> dict[str, dict[str, str]]:
    """kind -> sentence -> where it is said, for schools of standards."""
    out: dict[str, dict[str, str]] = {}
    with ProcessPoolExecutor() as pool:
        for rows in pool.map(of_school, pairs):
            for kind, words, at in rows:
                out.setdefault(kind, {}).setdefault(words, at)
    return out


def page(found: dict[str, dict[str, str]]) -> str:
    """The page, kind by kind, in the order of the words."""
    parts = [HEAD]
    for kind, rows in found.items():
        parts.append(f"\n## {kind}\n")
        parts += [f"- {words} *({at})*" for words, at in sorted(rows.items())]
    return "\n".join(parts) + "\n"


def every_school() -> list[tuple[str, str]]:
    return [(id, s.id) for id in shipped() for s in standard(id).schools]


if __name__ == "__main__":
    PAGE.write_text(page(gathered(every_school())), encoding="utf-8")
