"""Sets out of and into the library as one file each."""

from __future__ import annotations

import contextlib
from pathlib import Path
from typing import Any

from guide_arc.core.model.errors import BadInput
from guide_arc.formats.bundle import reading_bundle, write_bundle
from guide_arc.formats.errors import BadFile
from guide_arc.library.clip_sets import ClipDetails, ClipSets, marks_of, marks_text
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.store import Library

_TEXTS = (
    "client",
    "standard",
    "school",
    "tempo",
    "recorded",
    "source_name",
    "view",
    "tracked_by",
    "marks",
)


def write_set(library: Library, set_id: int, path: Path) -> None:
    """Write a set with its clip, track and what is known of it. Raises BadFile where that can't be written."""
    record = library.record(set_id)
    sets = ClipSets(library)
    clip = sets.clip(set_id)
    track = None if record.waits_for_landmarks else library.track(set_id)
    meta: dict[str, Any] = {
        "client": record.client, "standard": record.standard, "school": record.school,
        "tempo": record.tempo, "load_kg": record.load_kg, "recorded": record.recorded,
        "source_name": record.source_name, "view": record.view, "tracked_by": record.tracked_by,
        "capture_hz": record.capture_hz, "pain": record.notes.pain, "note": record.notes.note,
        "mirrored": record.mirrored,
        "marks": marks_text(sets.marks(set_id)) if clip else "",
    }  # fmt: skip
    write_bundle(path, meta, track, clip.path if clip else None)


def take_bundle(library: Library, path: Path) -> tuple[int, bool]:
    """Take a set's bundle in; (its id, whether it is new). Raises BadFile for anything that is not one."""
    catalogue = OwnStandards(library).catalogue()
    with reading_bundle(path) as bundle:
        said = {k: _text(bundle.meta.get(k)) for k in _TEXTS}
        standard = said["standard"] or ""
        if standard not in catalogue:
            raise BadFile(
                f"its exercise {standard!r} is not known here",
                path=path,
                right="import its standard first",
            )
        schools = [s.id for s in catalogue.standard(standard).schools]
        school = said["school"] if said["school"] in schools else schools[0]
        client = said["client"] or path.stem
        load, rate = (_number(bundle.meta.get(k)) for k in ("load_kg", "capture_hz"))
        if bundle.clip is None:
            set_id, new = library.add_set(
                bundle.track_bytes, said["source_name"] or path.name, client=client, standard=standard,
                school=school, tempo=said["tempo"], recorded=said["recorded"], load_kg=load,
            )  # fmt: skip
            return set_id, new
        sets = ClipSets(library)
        details = ClipDetails(
            client, standard, school, said["view"] or "left", said["tempo"], load, said["recorded"],
            bool(bundle.meta.get("pain")), rate,
        )  # fmt: skip
        set_id, new = sets.add(bundle.clip, details)
        if new:
            library.change_set(set_id, source_name=(said["source_name"] or path.name)[:255])
            if bundle.meta.get("mirrored") is True:
                sets.turn_back(set_id, True)
            # Marks that can't be read are left out: the landmarks stand by themselves.
            with contextlib.suppress(ValueError):
                sets.keep_marks(set_id, marks_of(said["marks"] or "", details.view))
            if bundle.track is not None:
                sets.keep_track(set_id, bundle.track, (said["tracked_by"] or "file")[:40])
        return set_id, new


def _text(value: Any) -> str | None:
    return value[:4000] if isinstance(value, str) and value else None


def _number(value: Any) -> float | None:
    usable = isinstance(value, int | float) and not isinstance(value, bool)
    if usable and not 0 <= value <= 5000:
        raise BadInput(f"the number {value:g} in the bundle is out of range")
    return float(value) if usable else None
