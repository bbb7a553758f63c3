"""What names mean: the table that ships, how words are found in names, and what a studio adds."""

from __future__ import annotations

import math

import pytest
from scipy import integrate, stats

from oak_square.core.errors import BadBook
from oak_square.core.likely.nouns import OWN_NOUNS, Named, Noun, named_by, nouns, parse_nouns, said_lengths
from oak_square.core.likely.weights import NAME_SPREAD, NAME_TAIL_DOF, NAME_TAILS


def word(name):
    found = named_by(name)
    return None if found is None else found.senses[0].word


@pytest.mark.parametrize(
    ("name", "noun"),
    [
        ("chair.obj", "chair"),
        ("oak_chairs_v2.stl", "chair"),
        ("LampPost_final.obj", "street lamp"),
        ("DiningTable01.obj", "table"),
        ("knives.ply", "knife"),
        ("Gartenstuhl.obj", "chair"),
        ("Stühle-alt.stl", "chair"),
        ("Stuehle.stl", "chair"),
        ("canalBoat3.obj", "narrowboat"),
        ("tower_glass.obj", "tower"),  # what it is of, not what it is
        ("wine_glass.obj", "glass"),
        ("mushroom.obj", "mushroom"),  # no room of mush
        ("chair_leg.obj", "leg"),
        ("left_hand_gate_red.obj", "gate"),
        ("lock/chairs/007.obj", "chair"),  # its folder, where its own name says nothing
        ("x7_final_v2.stl", None),
        ("grommelzack.obj", None),
    ],
)
def test_the_last_noun_of_a_name_is_what_the_thing_is(name, noun):
    assert word(name) == noun


def test_a_noun_that_stands_before_an_unknown_word_is_trusted_less_than_one_that_ends_a_name():
    assert named_by("gate_quoin.obj").senses[0].word == "gate"
    assert named_by("gate_quoin.obj").trust < named_by("gate.obj").trust
    assert named_by("zz.stl", ["hex_bolt"]).senses[0].word == "bolt"
    assert named_by("zz.stl", ["a", "b", "c", "bolt"]) is None  # one part of many is not the thing


def test_a_name_as_long_as_a_file_takes_no_longer_than_its_end():
    assert named_by("x.obj", ["ab cd " * 300_000 + "bolt"]).senses[0].word == "bolt"


def test_the_table_has_several_hundred_nouns_in_two_languages_and_sound_ranges():
    every = {noun.word: noun for senses in nouns().values() for noun in senses}
    assert len(every) > 500
    assert len(nouns()) > 1500
    assert {"furniture", "vehicle", "vessel", "plant", "creature", "building", "tool", "part", "tableware"} <= {
        n.kind for n in every.values()
    }
    assert all(0 < n.low < n.high for n in every.values())
    for english, german in (("chair", "stuhl"), ("bridge", "brucke"), ("cow", "kuh"), ("hammer", "hammer")):
        assert nouns()[german][0] is nouns()[english][0]


def test_a_noun_gives_students_distribution_and_never_a_certainty():
    noun = Noun(word="post", low=0.5, high=2.0, build="tall", kind="building")
    named = Named(senses=(noun,), trust=1.0)
    spread = NAME_SPREAD * math.log(4) / (2 * stats.norm.ppf(0.9))
    there = stats.t(NAME_TAIL_DOF, scale=spread)
    any_size = stats.norm(math.log(1.5), 1.8)
    for longest in (0.1, 0.7, 1.0, 3.0, 40.0):
        by_hand = (1 - NAME_TAILS) * there.pdf(math.log(longest)) + NAME_TAILS * any_size.pdf(math.log(longest))
        assert math.exp(named.log_likelihood(longest)) == pytest.approx(by_hand, rel=1e-3)
    whole, _ = integrate.quad(lambda x: math.exp(named.log_likelihood(math.exp(x))), -12, 12, points=[0.0])
    assert whole == pytest.approx(1, abs=1e-3)
    # However far off it is, what that costs has an end: some things are toys.
    assert named.log_likelihood(1.0) - named.log_likelihood(1e6) < 25


def test_what_means_two_things_is_as_likely_to_be_either():
    mouse = named_by("mouse.stl")
    assert {n.kind for n in mouse.senses} == {"creature", "electronics"}
    assert mouse.nearest(0.1).high <= 0.2


def test_a_name_can_say_a_length():
    assert said_lengths("beam_2.5m.obj") == (2.5,)
    assert said_lengths("plank_240cm_20mm.obj") == pytest.approx((2.4, 0.02))
    assert said_lengths("room_12_m4_bolt.obj") == ()
    assert said_lengths("pipe_2ft_final.stl") == pytest.approx((0.6096,))


def test_a_studio_adds_its_own_words_and_they_come_first(tmp_path, monkeypatch):
    own = tmp_path / "nouns.csv"
    own.write_text("noun,german,min_m,max_m,build,kind\nquoin post,wendesäule,5,7,tall,lock\ngate,,6,9,,lock\n")
    monkeypatch.setenv(OWN_NOUNS, str(own))
    assert named_by("left_quoin_posts.obj").senses[0].high == 7
    assert named_by("Wendesaeule.stl").senses[0].word == "quoin post"
    assert [n.kind for n in named_by("gate.obj").senses] == ["lock"]
    assert word("chair.obj") == "chair"


@pytest.mark.parametrize(
    ("text", "line", "why"),
    [
        ("name,size\nx,1\n", 1, "no table of nouns"),
        ("noun,min_m,max_m\npost,2,1\n", 2, "needs a range"),
        ("noun,min_m,max_m\npost,1,2\nbeam,one,2\n", 3, "numbers of metres"),
        ("noun,min_m,max_m,build\npost,1,2,stout\n", 2, "no build"),
        ("noun,min_m,max_m\n,1,2\n", 2, "no noun"),
        ("noun,min_m,max_m\npost,nan,2\n", 2, "needs a range"),
    ],
)
def test_a_bad_table_is_told_with_its_line(text, line, why):
    with pytest.raises(BadBook) as told:
        parse_nouns(text, "own.csv")
    assert told.value.line == line
    assert why in str(told.value)
