"""What a recording of a standard from each side can judge."""

from __future__ import annotations

from collections.abc import Mapping

from guide_arc.app.places.standards.sheets.sheet import ScrolledSheet
from guide_arc.core.checks.registry import specs
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import View

VIEW_WORDS: dict[View, str] = {
    "none": "In space",
    "front": "From the front",
    "back": "From the back",
    "left": "From the left",
    "right": "From the right",
}


class ViewsSheet(ScrolledSheet):
    """What a recording from each side can judge, as found on simulated sets."""

    def __init__(self, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.colours = colours

    def show_views(self, plan: Standard, judged: Mapping[View, Mapping[str, bool]] | None) -> None:
        self._fresh()
        if judged is None:
            self.words("Filming the simulated client from every side…", "muted")
            self.box.addStretch(1)
            return
        titles = {c.name: c.title for c in plan.checks}
        pace = [n for n, spec in specs().items() if spec.evidence == "range" or spec.tempo_part]
        if not any(told.get(n) for view, told in judged.items() if view != "none" for n in pace):
            self.words(
                "The movement runs towards and away from every camera: a picture counts its reps,"
                " but shows neither their range nor their pace. Record it in space to judge these."
            )
        for view, told in judged.items():
            able = [titles[n] for n in titles if told.get(n)]
            hidden = [titles[n] for n in titles if not told.get(n)]
            best = " · best" if view in plan.views and able else ""
            self.words(f"{VIEW_WORDS[view]}{best}: {len(able)} of {len(titles)} checks", "heading")
            if hidden and able:
                self.words("Can't judge: " + ", ".join(_lower(h) for h in hidden) + ".")
            elif not able:
                self.words("Can't judge any of them: the body hides the movement from here.")
            else:
                self.words("Judges all of them.", "muted")
        self.box.addStretch(1)


def _lower(words: str) -> str:
    return words[:1].lower() + words[1:]
