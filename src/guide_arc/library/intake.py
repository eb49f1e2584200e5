"""Files on their way in: what they say of themselves, and what is still to be said."""

from __future__ import annotations

import itertools
import logging
import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from pathlib import Path
from typing import Any, Final

from guide_arc.capture.drop_folder import LOOKED_AT, TAKEN
from guide_arc.capture.video.clip import OTHER_SUFFIXES, SUFFIXES, Clip, inspect_video
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import BODY
from guide_arc.core.model.plain_text import visible
from guide_arc.core.model.track import IMAGE_VIEWS, STATED_VIEWS, LandmarkTrack, StatedView
from guide_arc.core.review.suggest import LANDMARKS, suggest
from guide_arc.formats.answer_json import MOST_BYTES, is_answer
from guide_arc.formats.errors import BadFile
from guide_arc.formats.marker_names import Names, UnknownMarkers
from guide_arc.formats.track_file import as_kept, read_track
from guide_arc.library.attribution import ClientName, attribution
from guide_arc.library.records import SetRecord
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.schools import Preference, preferred_school

_LOG = logging.getLogger(__name__)

# An answer is saved as JSON; a message with its code as text.
_ANSWERS: Final = (".json", ".txt")
# A date in a file's name, with the time of day as phones add it: 2031-04-01, 20310401_181503.
_NAMED: Final = re.compile(
    r"(?<!\d)(20\d\d)([-_.]?)(0[1-9]|1[0-2])\2(0[1-9]|[12]\d|3[01])"
    r"(?:[ T_-]?(?:at )?([01]\d|2[0-3])[-_.h]?([0-5]\d)(?:[-_.]?[0-5]\d)?(?:\d{3})?)?(?!\d)"
)


@dataclass(frozen=True)
class Incoming:
    """One readable file: its bytes, and client and exercise if it names them.

    client : whose it is for certain; empty if that is to be asked about. proposed : whose it may
        be then
    standard : as the file says; None if it names no known client
    fits : if it names none, the standards that fit the movement, best first, and why
    clip : where the file is, for a clip: its bytes are copied when it is taken in
    bundle : where the file is, for a whole set: it names everything
    shown_hz, capture_hz : a clip's rate, and the rate it was filmed at where the file says another
    view : the side the camera sees, where the file's name says so
    missing_s : how much of a clip was cut off in its file
    path : its source
    """

    name: str
    data: bytes
    client: str
    standard: str | None
    load_kg: float | None
    recorded: str | None
    frames: int
    duration_s: float
    fits: Fits | None = None
    clip: Path | None = None
    bundle: Path | None = None
    shown_hz: float = 0.0
    capture_hz: float | None = None
    view: str | None = None
    missing_s: float = 0.0
    path: Path | None = None
    proposed: str = ""


@dataclass(frozen=True)
class Known:
    """The choices offered for a set's details: the clients, the standards, the preferred schools.

    names : the clients with the words that were agreed on for their files
    usual_kg : the usual load, by client and standard
    """

    clients: list[str]
    catalogue: Catalogue
    preferences: tuple[Preference, ...] = ()
    names: tuple[ClientName, ...] = ()
    usual_kg: Mapping[tuple[str, str], float] = field(default_factory=dict)


@dataclass(frozen=True)
class Details:
    """The details of one set. view, capture_hz : of a clip only"""

    client: str
    standard: str
    school: str
    tempo: str | None
    load_kg: float | None
    view: str | None = None
    capture_hz: float | None = None


def details_of(record: SetRecord) -> Details:
    """What is known of a set, to be corrected."""
    return Details(record.client, record.standard, record.school, record.tempo, record.load_kg)


def fields_of(details: Details) -> dict[str, Any]:
    """A set's details, by the library's field names."""
    return {
        "client": details.client,
        "standard": details.standard,
        "school": details.school,
        "tempo": details.tempo,
        "load_kg": details.load_kg,
    }


def said_by_itself(item: Incoming, known: Known) -> Details | None:
    """The details of a file whose name and facts leave nothing open; else None."""
    if item.bundle or not item.client or item.standard is None or (item.clip and not item.view):
        return None
    plan = known.catalogue.standard(item.standard)
    school = preferred_school(known.preferences, plan, item.client)
    return Details(
        client=item.client,
        standard=item.standard,
        school=school,
        tempo=None,
        load_kg=item.load_kg,
        view=item.view,
        capture_hz=item.capture_hz,
    )


@dataclass(frozen=True)
class Fits:
    """ids : of standards, best first; sure : the first fits clearly better; reason : why"""

    ids: tuple[str, ...]
    sure: bool
    reason: str


@dataclass(frozen=True)
class Refused:
    """One file that can't come in, and why, as a sentence. unnamed : its markers have to be named
    first"""

    name: str
    why: str
    unnamed: UnknownMarkers | None = None
    path: Path | None = None


def inspect_files(
    paths: Iterable[Path],
    clients: Sequence[ClientName],
    catalogue: Catalogue,
    progress: Callable[[float], None] = lambda _share: None,
    names: Names | None = None,
) -> tuple[list[Incoming], list[Refused]]:
    """Read files on their way in. Folders give the tracks and clips inside them. Nothing is stored
    yet.

    progress : called with a share from 0 to 1 before each file; may raise to stop
    names : landmark by marker, as it was said for earlier files
    """
    good: list[Incoming] = []
    bad: list[Refused] = []
    files = _files(paths)
    for i, path in enumerate(files):
        progress(i / len(files))
        try:
            good.append(replace(_inspected(path, clients, catalogue, names), path=path))
        except UnknownMarkers as error:
            bad.append(Refused(visible(path.name), str(error), error, path))
        except BadInput as error:
            bad.append(Refused(visible(path.name), str(error), path=path))
        except OSError as error:
            why = f"{visible(path.name)}: the file can't be read ({error.strerror})."
            bad.append(Refused(visible(path.name), why, path=path))
        except Exception:
            _LOG.exception("a file could not be read")
            why = (
                f"{visible(path.name)}: something is wrong in the program itself; the file is left"
                " where it is."
            )
            bad.append(Refused(visible(path.name), why, path=path))
    # A client's sets are next to each other, in the order of filming: the details of one are
    # suggestions for the next.
    good.sort(key=lambda item: (item.client or item.proposed, item.recorded or "", item.name))
    return good, bad


def _inspected(
    path: Path, clients: Sequence[ClientName], catalogue: Catalogue, names: Names | None
) -> Incoming:
    if path.suffix.lower() in (*SUFFIXES, *OTHER_SUFFIXES):
        return inspect_clip(path, clients, catalogue)
    if path.suffix.lower() == ".zip":
        return Incoming(
            name=path.name,
            data=b"",
            client="",
            standard=None,
            load_kg=None,
            recorded=None,
            frames=0,
            duration_s=0.0,
            bundle=path,
        )
    track = read_track(path, names)
    data = as_kept(path, track)
    if track.frames < 2:
        raise BadFile("the track has one frame", path=path, right="a review needs at least 2")
    standard = track.facts.standard if track.facts.standard in catalogue else None
    fits = None if standard else fits_of(track, catalogue)
    whose = attribution(path.name, clients)
    return Incoming(
        name=path.name,
        data=data,
        client=whose.client,
        standard=standard,
        load_kg=track.facts.load_kg,
        recorded=track.facts.recorded,
        frames=track.frames,
        duration_s=track.duration_s,
        fits=fits,
        proposed=whose.proposed,
    )


def file_filter() -> str:
    """What can be taken in, as a file dialog asks for it."""
    return f"Clips and landmark tracks ({' '.join(f'*{s}' for s in TAKEN)});;All files (*)"


def _view_in(words: str) -> StatedView | None:
    """The view that a file's name says, such as `front`, `front-left` or `left-front`."""
    said = words.split("-")
    pairs = {"-".join(sorted(pair)) for pair in itertools.pairwise(said)}
    for view in STATED_VIEWS:
        if view not in IMAGE_VIEWS and "-".join(sorted(view.split("-"))) in pairs:
            return view
    return next((v for v in STATED_VIEWS if v in said), None)


def inspect_clip(path: Path, clients: Sequence[ClientName], catalogue: Catalogue) -> Incoming:
    """A clip on its way in: what it is, and what its name says of the set."""
    clip = inspect_video(path)
    words = path.stem.lower().replace("_", "-").replace(" ", "-")
    named = [id for id in catalogue.ids() if id in words]
    standard = max(named, key=len, default=None)
    view = _view_in(words)
    whose = attribution(path.name, clients)
    return Incoming(
        name=path.name,
        data=b"",
        client=whose.client,
        standard=standard,
        load_kg=None,
        recorded=_when(path, clip),
        frames=clip.frames,
        duration_s=clip.duration_s,
        clip=path,
        shown_hz=clip.shown_hz,
        capture_hz=clip.filmed_hz,
        view=view,
        missing_s=clip.missing_s,
        proposed=whose.proposed,
    )


def _when(path: Path, clip: Clip) -> str:
    """When a clip was filmed: as its name says, as the phone noted in it, or else when its file was
    written."""
    named = _NAMED.search(path.stem)
    if named is not None:
        year, _, month, day, hour, minute = named.groups()
        return f"{year}-{month}-{day}" + (f"T{hour}:{minute}" if hour else "")
    if clip.filmed_at:
        return clip.filmed_at
    return datetime.fromtimestamp(path.stat().st_mtime).isoformat(timespec="minutes")


def fits_of(track: LandmarkTrack, catalogue: Catalogue) -> Fits | None:
    """The standards that a movement fits; None where too little of it was seen to tell."""
    names = tuple(dict.fromkeys((*BODY, *LANDMARKS)))
    try:
        choice = suggest(Body(clean(track, names)), catalogue.every_school())
    except BadInput:
        return None  # no trunk in view: the review will say so
    if choice is None:
        return None
    return Fits(tuple(s.standard.id for s in choice.ranked), choice.sure, choice.reason)


def answers_among(
    paths: Iterable[Path],
) -> tuple[tuple[tuple[Path, str], ...], tuple[Path, ...]]:
    """The clients' answers among files, with their texts, and the other files. Folders give the
    files inside them."""
    answers: list[tuple[Path, str]] = []
    others: list[Path] = []
    for path in _files(paths):
        text = _answer_text(path) if path.suffix.lower() in _ANSWERS else None
        if text is None:
            others.append(path)
        else:
            answers.append((path, text))
    return tuple(answers), tuple(others)


def _answer_text(path: Path) -> str | None:
    """The text of an answer, damaged or not; None for another file, and for one that can't be
    read."""
    try:
        with path.open("rb") as file:
            data = file.read(MOST_BYTES + 1)
    except OSError:
        return None
    return data.decode("utf-8", "replace") if is_answer(data) else None


def _files(paths: Iterable[Path]) -> list[Path]:
    out: list[Path] = []
    for path in paths:
        if path.is_dir():
            out += sorted(p for p in path.iterdir() if p.suffix.lower() in LOOKED_AT)
        else:
            out.append(path)
    return out
