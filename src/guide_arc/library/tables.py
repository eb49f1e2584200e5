"""The tables of the library file. Changes need a migration in `migrations/versions`.

A number of a row (`id`) is never given to another row, even after the first was deleted: undo,
another window and notes about a set still hold it.
"""

from __future__ import annotations

from sqlalchemy import (
    Boolean,
    Float,
    ForeignKey,
    Index,
    Integer,
    String,
    Text,
    UniqueConstraint,
    text,
)
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    pass


_NUMBERED = {"sqlite_autoincrement": True}


class ClientRow(Base):
    __tablename__ = "client"
    __table_args__ = _NUMBERED

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    name: Mapped[str] = mapped_column(String(120), unique=True)
    stature_m: Mapped[float | None] = mapped_column(Float)
    profile: Mapped[str] = mapped_column(Text, default="{}")


class TrackRow(Base):
    """A recorded track, named by the hash of its file's bytes."""

    __tablename__ = "track"

    hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    file: Mapped[str] = mapped_column(String(200))
    frames: Mapped[int] = mapped_column(Integer)
    duration_s: Mapped[float] = mapped_column(Float)
    view: Mapped[str] = mapped_column(String(8))


class ClipRow(Base):
    """A clip, named by the hash of its file's bytes. `shown_hz`, `duration_s`: as the file shows
    it."""

    __tablename__ = "clip"

    hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    file: Mapped[str] = mapped_column(String(200))
    frames: Mapped[int] = mapped_column(Integer)
    shown_hz: Mapped[float] = mapped_column(Float)
    duration_s: Mapped[float] = mapped_column(Float)
    width: Mapped[int] = mapped_column(Integer)
    height: Mapped[int] = mapped_column(Integer)


class SetRow(Base):
    """One recorded set of one client. `state` is "waiting" or "done".

    `felt` and `corrections` are JSON lists: what the coach adds, apart from what is computed. A set
    that came as a clip has no track until its landmarks are found; `marks` is the JSON of what was
    marked on the picture, `view` the side that the camera sees, `mirrored` whether the phone filmed
    as in a mirror, `search` how far a search for landmarks has come (`searches.py`).
    `other_view_of` names the set of which this recording shows the same reps from another side.
    `urgency`, `clean` : of its latest review, for the queue's order.
    """

    __tablename__ = "recorded_set"
    __table_args__ = (
        Index("set_by_state", "state", "recorded"),
        Index("set_by_client", "client_id"),
        Index("set_by_track", "track_hash"),
        Index("set_by_clip", "clip_hash"),
        Index("set_by_search", "search"),
        Index("set_by_exercise", "client_id", "standard", "recorded"),
        Index("set_by_main", "other_view_of"),
        # What follows the id is counted at each start, without reading the rows.
        Index(
            "set_by_need",
            *("state", text("pain DESC"), text("urgency DESC"), "recorded", "id"),
            *("clean", "other_view_of"),
        ),
        Index("set_by_all_need", text("pain DESC"), text("urgency DESC"), "recorded", "id"),
        _NUMBERED,
    )

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    client_id: Mapped[int] = mapped_column(ForeignKey("client.id"))
    track_hash: Mapped[str | None] = mapped_column(ForeignKey("track.hash"))
    source_name: Mapped[str] = mapped_column(String(255))
    standard: Mapped[str] = mapped_column(String(80))
    school: Mapped[str] = mapped_column(String(80))
    tempo: Mapped[str | None] = mapped_column(String(40))
    load_kg: Mapped[float | None] = mapped_column(Float)
    recorded: Mapped[str] = mapped_column(String(40))
    pain: Mapped[bool] = mapped_column(Boolean, default=False)
    state: Mapped[str] = mapped_column(String(10), default="waiting")
    note: Mapped[str] = mapped_column(Text, default="")
    felt: Mapped[str] = mapped_column(Text, default="[]")
    loose_last: Mapped[int] = mapped_column(Integer, default=0)
    corrections: Mapped[str] = mapped_column(Text, default="[]")
    clip_hash: Mapped[str | None] = mapped_column(ForeignKey("clip.hash"))
    capture_hz: Mapped[float | None] = mapped_column(Float)
    view: Mapped[str | None] = mapped_column(String(8))
    marks: Mapped[str] = mapped_column(Text, default="")
    tracked_by: Mapped[str] = mapped_column(String(40), default="")
    search: Mapped[str] = mapped_column(Text, default="")
    mirrored: Mapped[bool] = mapped_column(Boolean, default=False)
    urgency: Mapped[float] = mapped_column(Float, default=0.0)
    clean: Mapped[bool] = mapped_column(Boolean, default=False)
    other_view_of: Mapped[int | None] = mapped_column(
        ForeignKey("recorded_set.id", ondelete="SET NULL")
    )


class ReviewRow(Base):
    """The latest computed review of a set, as `set-review/1`, with its queue columns and its yearly
    figures. `said` : what it found, in words, to be found by them.

    Recomputed at any time; what the coach decided is in `decision` and is not touched.
    """

    __tablename__ = "review"
    # Each start queries which sets have one; the rows themselves are most of the file.
    __table_args__ = (Index("review_by_set", "set_id"),)

    set_id: Mapped[int] = mapped_column(ForeignKey("recorded_set.id"), primary_key=True)
    program: Mapped[str] = mapped_column(String(20))
    document: Mapped[str] = mapped_column(Text)
    summary: Mapped[str] = mapped_column("glance", Text)
    trace: Mapped[str] = mapped_column(Text, default="")
    said: Mapped[str] = mapped_column(Text, default="")


class DecisionRow(Base):
    """What the coach decided about one finding: "keep", "drop" or "reword"."""

    __tablename__ = "decision"
    __table_args__ = (UniqueConstraint("set_id", "finding"), _NUMBERED)

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    set_id: Mapped[int] = mapped_column(ForeignKey("recorded_set.id"))
    finding: Mapped[str] = mapped_column(String(80))
    choice: Mapped[str] = mapped_column(String(10))
    words: Mapped[str | None] = mapped_column(Text)
    decided_by: Mapped[str] = mapped_column(String(120))
    decided_at: Mapped[str] = mapped_column(String(40))


class KeptRow(Base):
    """A document that is kept by kind ("plan", "room", "setup", "override"), for one client or for
    all.

    `about` narrows it down, to a standard or to a week.
    """

    __tablename__ = "kept"
    __table_args__ = (Index("kept_by_kind", "kind", "client_id", "about"), _NUMBERED)

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    kind: Mapped[str] = mapped_column(String(20))
    client_id: Mapped[int | None] = mapped_column(ForeignKey("client.id", ondelete="CASCADE"))
    about: Mapped[str] = mapped_column(String(80), default="")
    name: Mapped[str] = mapped_column(String(120), default="")
    document: Mapped[str] = mapped_column(Text)


class SettingRow(Base):
    """What the library remembers for its person (coach's name, say)."""

    __tablename__ = "setting"

    key: Mapped[str] = mapped_column(String(80), primary_key=True)
    value: Mapped[str] = mapped_column(Text)
