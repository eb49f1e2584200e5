"""The forms in which a review is kept."""

from __future__ import annotations

from typing import Any

from guide_arc.core.model.review import Review
from guide_arc.core.review.trace import trace_of
from guide_arc.formats.review_json import review_document
from guide_arc.library.summary import summary_of
from guide_arc.library.traces import trace_text

KeptForms = tuple[dict[str, Any], dict[str, Any], str]


def kept_forms(review: Review) -> KeptForms:
    """Whole, for the queue, and for the years."""
    return review_document(review), summary_of(review), trace_text(trace_of(review))
