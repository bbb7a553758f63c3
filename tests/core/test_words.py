"""Sentences in more languages than one, and what of them stays English."""

from __future__ import annotations

import copy
import json
import pickle

import pytest

from oak_square.core import words
from oak_square.core.errors import BadFile, BadLength, Refused
from oak_square.core.lengths import as_written, format_length, format_size, parse_entry, point_in
from oak_square.core.words import (
    Words,
    capital,
    counted,
    either,
    in_english,
    joined,
    lowered,
    number,
    numbers_in_a_row,
    one_or_many,
    ordinal,
    say,
)

GERMAN = {
    ("{name} is {height} high", ""): "{height} hoch ist {name}",
    ("{far:.2f} m away", ""): "{far:.2f} m entfernt",
    ("to", "up to"): "bis",
    ("to", "a direction"): "nach",
    ("{count} pivots", "", 1): "{count} Drehpunkt",
    ("{count} pivots", "", 2): "{count} Drehpunkte",
    ("its pivot", ""): "sein Drehpunkt",
}


@pytest.fixture
def german():
    def translated(pattern, sense, count):
        many = (pattern, sense, 1 if count == 1 else 2)
        return GERMAN.get((pattern, sense)) or GERMAN.get(many) or pattern

    words.speak("de", translated)
    yield
    words.speak("en")


def test_a_pattern_is_said_with_its_parts_in_the_order_of_the_language(german):
    said = say("{name} is {height} high", name="post", height=number("1.25 m"))
    assert said == "1,25 m hoch ist post"
    assert said.english == "post is 1.25 m high"


def test_one_and_many_are_told_apart_in_both_languages(german):
    assert [counted(n, "pivot") for n in (0, 1, 2)] == ["0 Drehpunkte", "1 Drehpunkt", "2 Drehpunkte"]
    assert [counted(n, "pivot").english for n in (0, 1, 2)] == ["0 pivots", "1 pivot", "2 pivots"]
    words.speak("en")
    assert counted(1, "vertex", "vertices") == "1 vertex"
    assert one_or_many(3, "{count} is left of {all}", "{count} are left of {all}", all=9) == "3 are left of 9"


def test_a_word_of_two_senses_is_said_in_the_one_that_is_meant(german):
    assert (say("to", "up to"), say("to", "a direction")) == ("bis", "nach")
    assert say("to", "up to").english == "to"


def test_numbers_have_the_marks_of_the_language(german):
    assert say("{far:.2f} m away", far=1234.5) == "1234,50 m entfernt"
    assert format_length(1.25) == "1,25 m"
    assert format_size(1, 2.5, 0.25) == "1,00 × 2,50 × 0,25 m"
    assert numbers_in_a_row([number("1.5"), number("2")]) == "1,5; 2"
    assert ordinal(3) == "3."
    assert ordinal(3).english == "3rd"
    words.speak("en")
    assert numbers_in_a_row([number("1.5"), number("2")]) == "1.5, 2"


def test_what_is_typed_is_read_with_the_marks_of_the_language(german):
    assert [as_written(t) for t in ("1,5 m", "1,234", "0.9", "1.234,5", "1.234.567", "*0,5", "1.25")] == [
        "1.5 m", "1.234", "0.9", "1234.5", "1234567", "*0.5", "1.25"
    ]  # fmt: skip
    assert parse_entry("+1,5 cm", present=1.0, bare=1.0) == pytest.approx(1.015)
    assert point_in("1,5 m; 2; -0,4 m") == ["1.5 m", "2", "-0.4 m"]
    for text in ("1.234", "1,2,3", "1,2.3"):
        with pytest.raises(BadLength):
            as_written(text)
    words.speak("en")
    assert point_in("1.5, 2, 3") == ["1.5", "2", "3"]
    with pytest.raises(BadLength):
        as_written("1,234")


def test_words_come_out_of_another_process_in_the_language_of_this_one(german):
    words.speak("en")
    sent = pickle.dumps(
        [
            say("{name} is {height} high", name="post", height=number("1.25 m")),
            counted(2, "pivot"),
            joined("; ", [say("its pivot"), "x"]),
            capital(say("its pivot")),
            say("its pivot").replace("its", "the"),
            Refused(say("its pivot")),
            BadFile("a.glb", say("its pivot")),
        ]
    )
    words.speak("de", lambda p, s, n: GERMAN.get((p, s)) or GERMAN.get((p, s, 1 if n == 1 else 2)) or p)
    told = pickle.loads(sent)
    assert told[:4] == ["1,25 m hoch ist post", "2 Drehpunkte", "sein Drehpunkt; x", "Sein Drehpunkt"]
    assert in_english(told[:5]) == ["post is 1.25 m high", "2 pivots", "its pivot; x", "Its pivot", "the pivot"]
    assert str(told[5]) == "sein Drehpunkt"
    assert str(told[5]).english == "its pivot"
    assert str(told[6]) == "a.glb: sein Drehpunkt"
    assert str(told[6]).english == "a.glb: its pivot"


def test_what_is_done_to_words_is_done_to_their_english(german):
    pivot = say("its pivot")
    assert (pivot + "!").english == "its pivot!"
    assert ("(" + pivot).english == "(its pivot"
    assert capital(pivot).english == "Its pivot"
    assert lowered(capital(pivot)) == "Sein Drehpunkt"
    assert pivot.removeprefix("sein ").english == "its pivot"
    assert say(" its pivot ").strip().english == "its pivot"
    assert copy.deepcopy({"a": [pivot]})["a"][0] is pivot
    assert either("post", de="Pfosten") == "Pfosten"
    assert either("post", de="Pfosten").english == "post"
    assert either("post") == "post"


def test_a_document_is_plain_text_in_english(german):
    document = {"reason": say("its pivot"), say("its pivot"): [1, None, (counted(2, "pivot"),)]}
    plain = in_english(document)
    assert json.dumps(plain) == '{"reason": "its pivot", "its pivot": [1, null, ["2 pivots"]]}'
    assert not isinstance(plain["reason"], Words)


def test_what_has_no_words_in_the_language_yet_is_said_in_english_with_the_form_for_its_number():
    words.speak("de", lambda pattern, sense, count: "")
    try:
        assert [counted(n, "pivot") for n in (1, 2)] == ["1 pivot", "2 pivots"]
        assert say("{far:.2f} m away", far=1.5) == "1,50 m away"
    finally:
        words.speak("en")


def test_a_part_is_kept_as_it_was_said():
    rows = [1, 2]
    said = say("rows {rows}", rows=rows)
    rows.append(3)
    assert pickle.loads(pickle.dumps(said)) == "rows [1, 2]"
    assert say("{a}: {{b}}", a=1) == "1: {b}"
    assert say("{b}") == "{b}"
