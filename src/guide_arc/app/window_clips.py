"""What the window does with clips: their frames, marking them, trackers, what goes on in the background."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING, Final

from PyQt6.QtWidgets import QPushButton, QStackedWidget

from guide_arc.app import clip_works
from guide_arc.app.jobs import Job
from guide_arc.app.window_sets import LibraryEdit, PlaceName, WindowWithSets
from guide_arc.core.model.errors import BadInput

if TYPE_CHECKING:
    from guide_arc.app.instruments.clip_frames import ClipFrames
    from guide_arc.app.places.marking import MarkingPlace
    from guide_arc.app.viewmodels.marking import MarkingModel
    from guide_arc.capture.tracking.tracker import Tracker
    from guide_arc.core.model.marks import Marks
    from guide_arc.library.clip_sets import ClipDetails, ClipSets

_KEPT_FRAMES: Final = 3


class WindowWithClips(WindowWithSets):
    """The part of the window that works on clips. The marking place is made when first gone to."""

    stack: QStackedWidget
    rail: dict[PlaceName, QPushButton]
    colours: dict[str, str]
    _tracking: Job | None = None

    @cached_property
    def clip_sets(self) -> ClipSets:
        from guide_arc.library.clip_sets import ClipSets  # noqa: PLC0415

        return ClipSets(self.library)

    @cached_property
    def _frames(self) -> OrderedDict[tuple[int, bool], ClipFrames]:
        return OrderedDict()

    def clip_of(self, set_id: int, *, second: bool = False) -> ClipFrames | None:
        """The frames of a set's clip. `second`: apart from those of the open set, to show beside it."""
        key = (set_id, second)
        if key in self._frames:
            self._frames.move_to_end(key)
            return self._frames[key]
        try:
            if self.library.record(set_id).clip_hash is None:
                return None
            clip = self.clip_sets.clip(set_id)
            if clip is None:
                self.say("The clip of this set is gone from the library's folder.")
                return None
            from guide_arc.app.instruments.clip_frames import ClipFrames  # noqa: PLC0415

            proxy = self.clip_sets.folder.proxy(clip)
        except BadInput as error:
            self.say(str(error))
            return None
        self._frames[key] = ClipFrames(clip, proxy, self)
        while len(self._frames) > _KEPT_FRAMES:
            _old, frames = self._frames.popitem(last=False)
            frames.close()
        return self._frames[key]

    def close_clips(self) -> None:
        """End the threads that read clips."""
        for frames in self._frames.values():
            frames.close()
        self._frames.clear()

    def _drop_frames(self, set_id: int) -> None:
        for key in [k for k in self._frames if k[0] == set_id]:
            self._frames.pop(key).close()

    # Marking

    @cached_property
    def marking(self) -> MarkingModel:
        from guide_arc.app.viewmodels.marking import MarkingModel  # noqa: PLC0415

        model = MarkingModel(self._keep_marks)
        model.refused.connect(self.say)
        model.changed.connect(self._refresh)
        return model

    @cached_property
    def marking_place(self) -> MarkingPlace:
        from guide_arc.app.places.marking import MarkingPlace  # noqa: PLC0415

        place = MarkingPlace(self.marking, self.colours)
        place.follow_asked.connect(self.find_landmarks)
        place.stop_asked.connect(self.stop_tracking)
        place.offers_old.connect(self._offer_trackers)
        place.stature_of = self._stature
        self.stack.addWidget(place)
        return place

    @property
    def marking_seen(self) -> bool:
        """Whether the place has been made."""
        return "marking_place" in self.__dict__

    def _stature(self) -> float | None:
        record = self.marking.record
        return self.library.stature(record.client) if record else None

    def _keep_marks(self, set_id: int, marks: Marks) -> None:
        from guide_arc.core.kinematics.calibrate import calibration_of  # noqa: PLC0415

        before = self.clip_sets.marks(set_id)
        self.clip_sets.keep_marks(set_id, marks)
        if (calibration_of(before), before.view) != (calibration_of(marks), marks.view):
            self.clip_sets.recalibrate(set_id)
            self._measured.pop(set_id, None)
            self._review_missing()

    def go_marks(self) -> None:
        """Mark the clip of the chosen set."""
        set_id = self._chosen_id()
        if set_id is not None:
            self.mark_set(set_id)

    def mark_set(self, set_id: int) -> None:
        record = self.library.record(set_id)
        frames = self.clip_of(set_id)
        if record.clip_hash is None:
            self.say("This set came as landmarks; there is no clip to mark.")
            return
        if frames is None:
            return  # it was said why
        self.review.playback.pause()
        found = None if record.waits_for_landmarks else self.library.track(set_id)
        plan = self.catalogue().standard(record.standard)
        self.marking_place.show_clip(frames)
        self.marking.open(record, frames.clip, plan, self.clip_sets.marks(set_id), found)
        self._offer_trackers()
        self.place = "marking"
        self.stack.setCurrentWidget(self.marking_place)
        self._refresh()

    def trackers(self) -> list[Tracker]:
        """Every tracker there is, the one that asks least of the coach first."""
        from guide_arc.capture.tracking.following import MarkedPoints  # noqa: PLC0415
        from guide_arc.capture.tracking.pose import PoseModel  # noqa: PLC0415
        from guide_arc.capture.tracking.simulated import SimulatedTracker, recipe_of  # noqa: PLC0415

        out: list[Tracker] = [MarkedPoints(), PoseModel()]
        if self.marking.clip is not None and recipe_of(self.marking.clip) is not None:
            out.append(SimulatedTracker())
        return out

    def _offer_trackers(self) -> None:
        from guide_arc.app.places.marking import TrackerOffer  # noqa: PLC0415

        clip, marks = self.marking.clip, self.marking.marks
        if clip is None:
            return
        words = {
            "marked points": ("Follow the marks  (Ctrl+Return)", "Follows every marked point through the clip, and says where it doubts"),
            "pose model": ("Find the body by the pose model", "Finds the joints in every frame; marked kit is followed beside it"),
            "simulated tracker": ("Simulated tracker", "Stands in for a pose model on films of the simulated camera"),
        }  # fmt: skip
        self.marking_place.offer(
            [TrackerOffer(t.name, *words[t.name], t.why_not(clip, marks)) for t in self.trackers()]
        )

    def find_landmarks(self, name: str) -> None:
        """Run a tracker over the clip that is being marked; its review is computed and shown after."""
        record = self.marking.record
        if record is None or self._tracking is not None:
            return
        tracker = next(t for t in self.trackers() if t.name == name)
        set_id = record.id
        words = {"marked points": "Following", "pose model": "Finding"}.get(name, "Reading")

        def done(_none: object) -> None:
            self._tracking_over()
            self._measured.pop(set_id, None)
            self.queue.refresh()
            if self.place == "marking" and self.marking.record and self.marking.record.id == set_id:
                self._found(set_id)

        self.marking_place.show_progress(0.0, words)
        self._tracking = self.jobs.start(
            partial(clip_works.find, self.library.folder, set_id, tracker), done, self._tracking_failed,
            lambda share: self.marking_place.show_progress(share, words), self._tracking_over,
        )  # fmt: skip

    def _found(self, set_id: int) -> None:
        """A tracker is through: look again where it doubts, or go to the review."""
        self.mark_set(set_id)
        doubts = len(self.marking.doubts)
        if doubts:
            self.marking.next_doubt()
            self.say(
                f"Followed. {doubts} place{'' if doubts == 1 else 's'} to look at again (Q); F3 goes to the review."
            )
        else:
            self.say("Followed without a doubt.")
            self.open_set(set_id)

    def _tracking_failed(self, error: Exception) -> None:
        self._tracking_over()
        self._failed(error)

    def _tracking_over(self) -> None:
        self._tracking = None
        self.marking_place.show_progress(None)

    def stop_tracking(self) -> None:
        if self._tracking is not None:
            self._tracking.stop()

    def follow_marks(self) -> None:
        """Follow what is marked, where something is."""
        if self.marking.marks.points:
            self.find_landmarks("marked points")
        else:
            self.say("Nothing is marked yet; click the joints first.")

    # Clips on their way in

    def add_clips(self, rows: list[tuple[Path, ClipDetails]]) -> None:
        """Copy clips in, make their small copies, and find landmarks where a tracker can by itself."""
        if rows:
            self._take_clips(partial(clip_works.add_clips, self.library.folder, rows), len(rows))

    def add_bundles(self, paths: list[Path]) -> None:
        """Take whole sets in, as they were exported."""
        self._take_clips(partial(clip_works.add_bundles, self.library.folder, paths), len(paths))

    def go_on_with_clips(self) -> None:
        """Finish the clips whose copying was cut off last time, and the small copies that are missing."""
        coming = self.clip_sets.folder.unfinished()
        if coming:
            self._take_clips(partial(clip_works.go_on, self.library.folder), len(coming))
        elif self.clip_sets.folder.without_proxy():
            self._make_proxies()

    def _take_clips(self, work: Callable[[Callable[[float], None]], object], count: int) -> None:
        words = f"Copying {count} clip{'' if count == 1 else 's'} in"
        self.queue_place.show_progress(0.0, words)
        self._adding = self.jobs.start(
            work, self._clips_added, self._clips_failed,
            lambda share: self.queue_place.show_progress(share, words),
            self._clips_stopped,
        )  # fmt: skip

    def _clips_stopped(self) -> None:
        """The coach stopped the copying: what is half copied is not gone on with."""
        for coming in self.clip_sets.folder.unfinished():
            self.clip_sets.folder.give_up(coming)
        self._clips_added(([], 0, ["Stopped; the clips before are kept."]))

    def _clips_failed(self, error: Exception) -> None:
        self._adding = None
        self.queue_place.show_progress(None)
        self.queue.refresh()
        self._failed(error)

    def _clips_added(self, result: tuple[list[int], int, list[str]]) -> None:
        added, known, wrong = result
        self._adding = None
        self.queue_place.show_progress(None)
        self.queue.refresh()
        if added:
            ids = list(added)
            self._library_edits.append(
                LibraryEdit(f"Add {len(ids)} clip(s)", lambda: self._take_clips_out(ids))
            )
            self.queue.choose(added[0])
            self.queue.chosen_changed.emit()
        parts = [f"{len(added)} clip{'' if len(added) == 1 else 's'} added"] if added else []
        parts += [f"{known} already in the library"] if known else []
        self.say(" ".join([", ".join(parts) + "." if parts else "", *wrong]).strip())
        self._refresh()
        self._find_by_themselves(added)
        self._make_proxies()

    def _take_clips_out(self, ids: list[int]) -> None:
        for set_id in ids:
            self._drop_frames(set_id)
        self._take_out(ids)

    def _find_by_themselves(self, ids: list[int]) -> None:
        """Run the pose model over clips that just came in without landmarks, where it is there."""
        from guide_arc.capture.tracking.pose import PoseModel, pose_python  # noqa: PLC0415

        ids = [i for i in ids if self.library.record(i).waits_for_landmarks]
        if not ids or pose_python() is None:
            return
        folder = self.library.folder

        def work(progress: Callable[[float], None]) -> None:
            for i, set_id in enumerate(ids):
                clip_works.find(
                    folder, set_id, PoseModel(), partial(clip_works.part, progress, i, len(ids))
                )

        words = "Finding the body"
        self.queue_place.show_progress(0.0, words)

        def over() -> None:
            self.queue_place.show_progress(None)
            self.queue.refresh()

        self.jobs.start(
            work, lambda _none: over(), self._clips_failed,
            lambda share: self.queue_place.show_progress(share, words), over,
        )  # fmt: skip

    def _make_proxies(self) -> None:
        """Small copies for scrubbing, in the background."""

        def done(_none: object) -> None:
            for frames in self._frames.values():
                proxy = self.clip_sets.folder.proxy(frames.clip)
                if proxy is not None:
                    frames.with_proxy(proxy)

        self.jobs.start(
            partial(clip_works.make_proxies, self.library.folder),
            done,
            lambda error: self.say(str(error)),
        )
