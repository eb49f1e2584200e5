"""Answers of clients: matched by the page's token, taken in once, and pain counts at once."""

from __future__ import annotations

import json
import random
from datetime import date, datetime
from pathlib import Path

import pytest

from conftest import adder
from guide_arc.core.model.errors import BadInput
from guide_arc.formats.answer_json import (
    Answer,
    answer_code,
    answer_file,
    is_answer,
    read_answer,
)
from guide_arc.library.answers import (
    PageKey,
    answers_of,
    match,
    page_key,
    take_answer,
    unanswered,
)
from guide_arc.library.clients import Clients
from guide_arc.library.store import Library
from guide_arc.library.taking_out import take_client_out, take_out
from guide_arc.library.training_logs import logged_sets
from guide_arc.library.undoing import take_back
from guide_arc.library.whole_records import take_in, write_client

MADE = date(2031, 2, 3)
TODAY = date(2031, 2, 5)


@pytest.fixture(autouse=True)
def two_sets(library: Library, add_set) -> None:
    """Set 1 is Ada's, set 2 is Ben's."""
    for n, (client, load) in enumerate((("Ada Quill", 20.0), ("Ben Tarrow", 25.0)), 1):
        set_id = add_set(client, standard="rope-pushdown", reps=1, seed=n)
        library.change_set(set_id, load_kg=load, recorded="2031-02-03T18:00:00")


def answered(key: PageKey, **more: object) -> str:
    body: dict[str, object] = {"page": key.token, "made": "2031-02-04T19:12:00", **more}
    return answer_file(key.key, body)


def taken(library: Library, text: str):
    return take_answer(library, match(library, text, TODAY))


def test_an_answer_reaches_its_set_its_log_and_its_days(library: Library):
    key = page_key(library, 1, MADE)
    sets = [{"kg": 22.5, "reps": 12}, {"kg": 22.5, "reps": 11}]
    text = answered(
        key, felt=["triceps"], hurt=["left elbow"], left=2, sets=sets, sleep=5, words="a bit heavy"
    )
    out = taken(library, text)
    notes = library.record(1).notes
    assert notes.pain
    assert notes.settings.felt == ("triceps", "left elbow, pain")
    assert [(s.load_kg, s.left_reps) for s in logged_sets(Clients(library), "Ada Quill")] == [
        (22.5, 12),
        (22.5, 11),
    ]
    assert Clients(library).client("Ada Quill").tired == (date(2031, 2, 4),)
    assert answers_of(library, 1) == (
        "4 Feb 2031: pain in left elbow; felt in triceps; 2 reps left; done since: 22.5 kg × 12,"
        " 22.5 kg × 11; slept 5 h; “a bit heavy”",
    )
    assert out.words == (
        "Ada Quill answered (rope pushdown): pain was reported: no load is proposed until a"
        " clinician was consulted; 2 sets logged."
    )
    assert not library.record(2).notes.pain


def test_undo_takes_all_of_an_answer_back(library: Library):
    key = page_key(library, 1, MADE)
    before = library.record(1).notes
    text = answered(key, hurt=["neck"], sets=[{"kg": 20, "reps": 8}], sleep=3)
    out = taken(library, text)
    redo = take_back(library, out.changes).changes
    assert library.record(1).notes == before
    assert not logged_sets(Clients(library), "Ada Quill")
    assert not Clients(library).client("Ada Quill").tired
    assert answers_of(library, 1) == ()
    take_back(library, redo)
    assert library.record(1).notes.pain
    with pytest.raises(BadInput, match="taken in before"):
        taken(library, text)


def test_the_same_answer_counts_once_and_a_second_one_adds(library: Library):
    key = page_key(library, 1, MADE)
    first = answered(key, sets=[{"kg": 20, "reps": 10}], felt=["triceps"])
    taken(library, first)
    assert match(library, answer_code(first), TODAY).known
    with pytest.raises(BadInput, match="taken in before"):
        taken(library, first)
    taken(library, answered(key, sets=[{"kg": 20, "reps": 10}], words="sharp when I press"))
    assert len(logged_sets(Clients(library), "Ada Quill")) == 1  # the set was told twice
    assert library.record(1).notes.pain  # said in free words
    assert len(answers_of(library, 1)) == 2


def test_a_page_that_is_written_again_has_the_same_key(library: Library):
    assert page_key(library, 1, MADE) == page_key(library, 1, TODAY)
    assert page_key(library, 2, MADE).token != page_key(library, 1, MADE).token


@pytest.mark.parametrize(
    ("made", "why"),
    [
        ("2031-02-04T10:00:00", ""),
        ("2031-04-20T10:00:00", "in the future"),
        ("2031-01-20T10:00:00", "before its page was made"),
    ],
)
def test_an_odd_date_is_for_the_coach_to_decide(library: Library, made: str, why: str):
    key = page_key(library, 1, MADE)
    found = match(library, answered(key, made=made), TODAY)
    assert (why in found.doubt) if why else not found.doubt


def test_an_old_answer_is_for_the_coach_to_decide(library: Library):
    key = page_key(library, 1, MADE)
    found = match(library, answered(key, made="2031-03-20T10:00:00"), date(2031, 3, 21))
    assert found.doubt == "it was written 45 days after the page was made"


def test_a_changed_answer_is_refused(library: Library):
    key = page_key(library, 1, MADE)
    text = answered(key, left=2).replace('left\\":2', 'left\\":5')
    assert read_answer(text).in_reserve == 5
    with pytest.raises(BadInput, match="changed after it was written"):
        match(library, text, TODAY)


def test_an_answer_with_another_pages_token_lands_nowhere(library: Library):
    mine, other = page_key(library, 1, MADE), page_key(library, 2, MADE)
    text = answered(PageKey(other.token, mine.key), hurt=["neck"])
    with pytest.raises(BadInput, match="changed after it was written"):
        match(library, text, TODAY)
    with pytest.raises(BadInput, match="no page of this library"):
        match(library, answered(PageKey("0" * 32, mine.key)), TODAY)


def test_erasing_a_set_erases_its_page_and_answers_and_undo_brings_them_back(library: Library):
    key = page_key(library, 1, MADE)
    text = answered(key, words="fine")
    taken(library, text)
    changes = take_out(library, [1])
    with pytest.raises(BadInput, match="no page of this library"):
        match(library, text, TODAY)
    take_back(library, changes)
    assert match(library, text, TODAY).known
    take_client_out(library, "Ada Quill")
    with pytest.raises(BadInput, match="no page of this library"):
        match(library, text, TODAY)


def test_a_page_goes_with_its_set_to_another_client(library: Library):
    key = page_key(library, 1, MADE)
    taken(library, answered(key, words="fine"))
    library.change_set(1, client="Ben Tarrow")
    found = match(library, answered(key, hurt=["neck"]), TODAY)
    assert (found.set_id, found.client) == (1, "Ben Tarrow")
    assert len(answers_of(library, 1)) == 1
    take_client_out(library, "Ben Tarrow")
    with pytest.raises(BadInput, match="no page of this library"):
        match(library, answered(key), TODAY)


def test_a_record_that_goes_to_another_library_takes_its_pages_along(
    library: Library, add_set, tmp_path: Path
):
    key = page_key(library, 2, MADE)
    text = answered(key, words="fine")
    taken(library, text)
    write_client(library, "Ben Tarrow", tmp_path, lambda _share: None)
    (folder,) = tmp_path.glob("Ben*")
    other = Library.open(tmp_path / "other")
    try:
        for n in range(4):
            adder(other)("Cleo Marsh", standard="rope-pushdown", reps=1, seed=10 + n)
        take_in(other, folder, lambda _share: None)
        found = match(other, text, TODAY)
        assert found.known
        assert found.client == "Ben Tarrow"
        assert other.record(found.set_id).client == "Ben Tarrow"
        assert found.set_id != 2
        assert match(other, answered(key, hurt=["neck"]), TODAY).set_id == found.set_id
    finally:
        other.close()


def test_who_has_not_answered_is_known(library: Library):
    one = page_key(library, 1, MADE)
    page_key(library, 2, MADE)
    assert unanswered(library, datetime(2031, 2, 5)) == ()
    assert unanswered(library, datetime(2031, 2, 7)) == ("Ada Quill", "Ben Tarrow")
    taken(library, answered(one))
    assert unanswered(library, datetime(2031, 2, 7)) == ("Ben Tarrow",)


def test_a_code_may_stand_in_a_message_and_be_broken_over_lines(library: Library):
    key = page_key(library, 1, MADE)
    code = answer_code(answered(key, left=1))
    message = f"Hi Marit, here it is:\n{code[:60]}\n{code[60:]}"
    assert is_answer(message.encode())
    assert match(library, message, TODAY).answer.in_reserve == 1
    with pytest.raises(BadInput, match="client"):
        read_answer(code[:-30])


def hostile(rng: random.Random, file: str) -> str:
    """A mutated answer: bytes changed, cut, doubled, or values of other kinds."""
    outer = json.loads(file)
    how = rng.randrange(6)
    if how == 0:
        i = rng.randrange(len(file))
        return file[:i] + chr(rng.randrange(32, 400)) + file[i + 1 :]
    if how == 1:
        return file[: rng.randrange(len(file))]
    if how == 2:
        body = json.loads(outer["body"])
        body[rng.choice(list(body))] = rng.choice(
            [None, -1, 1e308, "x" * 5000, [], {}, [None], [["a"]], True, "2031-02-30", "\ud800"]
        )
        outer["body"] = json.dumps(body)
        return json.dumps(outer)
    if how == 3:
        outer[rng.choice(list(outer))] = rng.choice([None, 3, [], {}, "", "[" * 900])
        return json.dumps(outer)
    if how == 4:
        return answer_code(file)[: rng.randrange(12, 200)]
    return "".join(chr(rng.randrange(1, 0x2FF)) for _ in range(rng.randrange(400)))


def test_a_thousand_hostile_answers_crash_nothing_and_land_nowhere(library: Library):
    key = page_key(library, 1, MADE)
    rng = random.Random(5)
    file = answered(key, hurt=["neck"], left=2, sets=[{"kg": 20, "reps": 8}], words="ok", sleep=7)
    before = [library.record(i).notes for i in (1, 2)]
    for _ in range(1000):
        bad = hostile(rng, file)
        try:
            found = match(library, bad, TODAY)
        except BadInput as error:
            assert str(error)
            assert "\n" not in str(error)
        else:
            assert (found.set_id, found.answer.body) == (1, json.loads(file)["body"])
    assert [library.record(i).notes for i in (1, 2)] == before


def test_what_an_answer_says_is_read_as_it_was_written():
    file = answer_file(
        "k" * 32,
        {
            "page": "a" * 32,
            "made": "2031-02-04T19:12:00",
            "words": "müde — “ok” \u2028 <b>",
            "sets": [{"kg": None, "reps": 8}],
        },
    )
    got = read_answer(file)
    assert isinstance(got, Answer)
    assert got.is_intact("k" * 32)
    assert not got.is_intact("j" * 32)
    assert "<b>" in got.words
    assert got.sets[0].load_kg is None
