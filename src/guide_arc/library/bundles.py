"""Sets out of and into the library as one file each: with everything that the coach did, and back
as it went."""

from __future__ import annotations

import contextlib
import hashlib
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.plain_text import visible
from guide_arc.core.model.track import STATED_VIEWS
from guide_arc.formats.atomic import make_folder
from guide_arc.formats.bundle import Bundle, reading_bundle, write_bundle
from guide_arc.formats.errors import BadFile
from guide_arc.library.clip_sets import ClipDetails, ClipSets, marks_of, marks_text
from guide_arc.library.database import UNPACKING
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.plain_values import (
    file_name_of,
    load_of,
    moment_of,
    name_of,
    number_of,
    tempo_of,
)
from guide_arc.library.records import SetNotes
from guide_arc.library.set_document import added, notes_in
from guide_arc.library.store import Library
from guide_arc.standards.catalogue import Catalogue

_MOST_TEXT: Final = 1_000_000


@dataclass(frozen=True)
class _Said:
    """What a bundle says of its set, looked over."""

    client: str
    standard: str
    school: str
    tempo: str | None
    load_kg: float | None
    recorded: str | None
    source_name: str
    view: Any
    capture_hz: float | None
    mirrored: bool
    tracked_by: str
    marks: str
    notes: SetNotes


def write_set(library: Library, set_id: int, path: Path) -> None:
    """Write a set with its clip, track and details. Raises BadFile if that can't be
    written."""
    record = library.record(set_id)
    sets = ClipSets(library)
    clip = sets.clip(set_id)
    track = None
    if not record.waits_for_landmarks:
        track = library.track_file(set_id)
    meta: dict[str, Any] = {
        "id": set_id,
        "other_view_of": library.shown_with(set_id),
        "client": record.client,
        "standard": record.standard,
        "school": record.school,
        "tempo": record.tempo,
        "load_kg": record.load_kg,
        "recorded": record.recorded,
        "source_name": record.source_name,
        "view": record.view,
        "tracked_by": record.tracked_by,
        "capture_hz": record.capture_hz,
        "mirrored": record.mirrored,
        "marks": marks_text(sets.marks(set_id)) if clip else "",
        **added(record.notes),
    }
    write_bundle(path, meta, track, clip.path if clip else None)


def take_bundle(library: Library, path: Path) -> tuple[int, bool]:
    """Take a set's bundle in; (its id, whether it is new). Raises BadFile for anything that is not
    one."""
    set_id, new, _meta = take_bundle_with(library, path)
    return set_id, new


def take_bundle_with(library: Library, path: Path) -> tuple[int, bool, Mapping[str, Any]]:
    """The same, with all that the bundle says."""
    catalogue = OwnStandards(library).catalogue()
    into = library.folder / UNPACKING
    make_folder(into)
    with reading_bundle(path, into) as bundle:
        try:
            said = _said(bundle.meta, path, catalogue)
            set_id, new = _taken(library, bundle, said)
        except BadFile:
            raise
        except BadInput as error:
            raise BadFile(str(error), path=path, right="export the set again") from None
        return set_id, new, bundle.meta


def _taken(library: Library, bundle: Bundle, said: _Said) -> tuple[int, bool]:
    if bundle.clip is None:
        key = hashlib.sha256(bundle.track_bytes).hexdigest()
        known = library.same_set(said.standard, said.notes, track=key)
        if known is not None:
            return known, False
        return library.add_set(
            bundle.track_bytes,
            said.source_name,
            client=said.client,
            standard=said.standard,
            school=said.school,
            tempo=said.tempo,
            recorded=said.recorded,
            load_kg=said.load_kg,
            notes=said.notes,
            again=True,
        )
    sets = ClipSets(library)
    details = ClipDetails(
        client=said.client,
        standard=said.standard,
        school=said.school,
        view=said.view,
        tempo=said.tempo,
        load_kg=said.load_kg,
        recorded=said.recorded,
        pain=said.notes.pain,
        capture_hz=said.capture_hz,
    )
    name, clip, slip = sets.folder.take(bundle.clip, {})
    known = library.same_set(said.standard, said.notes, clip=name)
    if known is not None:
        sets.folder.commit(slip)
        return known, False
    set_id = sets.new_set(name, clip, bundle.clip, details)
    sets.folder.commit(slip)
    if said.mirrored:
        sets.turn_back(set_id, True)
    # Marks that can't be read are left out: the landmarks are complete without it.
    with contextlib.suppress(ValueError):
        sets.keep_marks(set_id, marks_of(said.marks, said.view))
    if bundle.track is not None:
        sets.keep_track(set_id, bundle.track, said.tracked_by)
    # Last: a set that a kill left without these is not the same one, and is taken in whole the next
    # time.
    library.keep_notes(set_id, said.notes)
    library.change_set(set_id, source_name=said.source_name)
    return set_id, True


def _said(meta: Mapping[str, Any], path: Path, catalogue: Catalogue) -> _Said:
    texts = {
        key: _text(meta, key)
        for key in (
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
    }
    standard = texts["standard"]
    if standard not in catalogue:
        raise BadFile(
            f"its exercise {visible(standard)[:80]!r} is not known here",
            path=path,
            right="import its standard first",
        )
    schools = [s.id for s in catalogue.standard(standard).schools]
    school = texts["school"] or schools[0]
    if school not in schools:
        raise BadFile(
            f"its school {visible(school)[:80]!r} of {standard} is not known here",
            path=path,
            right=f"import its standard first, or say one of {', '.join(schools)}",
        )
    view = texts["view"] or "left"
    return _Said(
        client=name_of(texts["client"] or path.stem, "its client"),
        standard=standard,
        school=school,
        tempo=tempo_of(texts["tempo"]),
        load_kg=load_of(number_of(meta.get("load_kg"), "its load", 0, 5000)),
        recorded=moment_of(texts["recorded"]),
        source_name=file_name_of(texts["source_name"] or path.name),
        view=view if view in STATED_VIEWS else "left",
        capture_hz=number_of(meta.get("capture_hz"), "its frame rate", 1, 5000),
        mirrored=meta.get("mirrored") is True,
        tracked_by=visible(texts["tracked_by"] or "file")[:40],
        marks=texts["marks"],
        notes=notes_in(meta),
    )


def _text(meta: Mapping[str, Any], key: str) -> str:
    value = meta.get(key)
    if value is None:
        return ""
    if not isinstance(value, str) or len(value) > _MOST_TEXT:
        raise BadInput(f"its {key} is no text")
    return value
