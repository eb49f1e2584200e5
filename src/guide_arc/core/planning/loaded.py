"""Which places of the body an exercise loads: a sore one of them stops it."""

from __future__ import annotations

from guide_arc.core.model.standard import Standard

_BY_REGION = {
    "chest-upper": ("shoulder", "elbow", "wrist"),
    "chest-lower": ("shoulder", "elbow", "wrist"),
    "front-shoulder": ("shoulder", "elbow", "wrist", "neck"),
    "side-shoulder": ("shoulder", "elbow", "wrist", "neck"),
    "rear-shoulder": ("shoulder", "elbow", "neck"),
    "traps": ("shoulder", "neck", "wrist"),
    "back": ("shoulder", "elbow", "wrist"),
    "elbow-flexors": ("elbow", "wrist", "shoulder"),
    "triceps": ("elbow", "wrist", "shoulder"),
    "trunk": ("lower back", "hip", "neck"),
}
_BY_BASE = {
    "standing": ("lower back",),
    "hinged": ("lower back", "hip"),
    "kneeling": ("lower back", "hip", "knee"),
    "plank": ("lower back", "wrist", "ankle"),
    "pike": ("lower back", "neck", "wrist", "ankle"),
    "on-hands": ("shoulder", "wrist"),
    "side-lying": ("lower back",),
}
_BY_CAUTION = {
    "elbow-ache": "elbow",
    "shoulder-pain": "shoulder",
    "low-back": "lower back",
    "rounded-back": "lower back",
    "disc": "lower back",
    "support": "lower back",
    "neck-relaxed": "neck",
    "dips": "shoulder",
}


def places_loaded(standard: Standard) -> frozenset[str]:
    """The joints and the spine's parts that carry load in an exercise: by its region, by the
    posture, and by its cautions. More rather than fewer: what is sore waits."""
    return frozenset(
        (
            *_BY_REGION.get(standard.region, ("shoulder", "elbow", "wrist")),
            *_BY_BASE.get(standard.base, ()),
            *(_BY_CAUTION[c] for c in standard.cautions if c in _BY_CAUTION),
        )
    )
