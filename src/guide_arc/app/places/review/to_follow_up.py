"""What a set gives to come back to."""

from __future__ import annotations

from guide_arc.app.places.review.model import ReviewModel


def to_follow_up(model: ReviewModel) -> list[str]:
    """Pain first, then what could not be judged though it can harm, then the cues."""
    out = []
    plan = model.doc.next_time
    if plan is not None and plan.ask_first:
        out.append("Ask what the clinician said")
    hidden = [
        f for f in model.doc.findings if f.verdict == "cannot-tell" and f.rule.harm != "effect"
    ]
    out += [f"Ask for a recording that shows “{f.title.lower()}”" for f in hidden[:2]]
    out += [f"See whether “{model.doc.cue(f).rstrip('.')}” was taken" for f in model.doc.kept[:2]]
    return [*dict.fromkeys(out), "Ask how it went"]
