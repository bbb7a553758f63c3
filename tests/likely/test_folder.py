"""What a folder says together, against the same model with every possibility counted out by hand."""

from __future__ import annotations

from itertools import product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.likely import folder as folder_module
from oak_square.core.likely.folder import Vote, believe, settled_belief
from oak_square.core.likely.weights import FORMAT_STAYS, ODD, VOICES

PRIOR = np.array([0.5, 0.3, 0.2])


def counted_out(says, formats, prior):
    """Shares of each file by summing over all ways of folder, formats and files."""
    kinds = list(dict.fromkeys(formats))
    likely = np.exp(says)
    count, k = likely.shape
    shares = np.zeros((count, k))
    for way in range(k):
        for of_format in product(range(k), repeat=len(kinds)):
            here = prior[way]
            for f in of_format:
                here *= FORMAT_STAYS * (f == way) + (1 - FORMAT_STAYS) * prior[f]
            for files in product(range(k), repeat=count):
                whole = here
                for i, mine in enumerate(files):
                    its = of_format[kinds.index(formats[i])]
                    whole *= ((1 - ODD) * (mine == its) + ODD * prior[mine]) * likely[i, mine]
                for i, mine in enumerate(files):
                    shares[i, mine] += whole
    return shares / shares.sum(axis=1, keepdims=True)


@given(
    says=st.lists(st.lists(st.floats(-4, 0), min_size=3, max_size=3), min_size=1, max_size=4),
    formats=st.lists(st.sampled_from(["obj", "stl"]), min_size=4, max_size=4),
)
def test_what_is_believed_of_each_file_is_what_counting_all_possibilities_gives(says, formats):
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(folder_module, "ODD_STRENGTH", 1e12)  # how many are odd is not learnt, so that it can be counted
        rows = np.array(says)
        found = believe(
            [Vote(format=f, says=row, of=k) for k, (f, row) in enumerate(zip(formats, rows, strict=False))],
            [PRIOR] * len(set(formats[: len(rows)])),
        )
    assert found.files == pytest.approx(counted_out(rows, formats[: len(rows)], PRIOR), abs=1e-9)
    assert found.folder.sum() == pytest.approx(1)


def plain(best, strength, of, k=3):
    return Vote(format="obj", says=np.where(np.arange(k) == best, 0.0, -strength), of=of)


def test_what_is_known_by_size_alone_has_one_voice_however_many_files_there_are():
    few = believe([plain(1, 1.0, None)] * 2, [PRIOR]).folder
    many = believe([plain(1, 1.0, None)] * 60, [PRIOR]).folder
    assert many[1] == pytest.approx(few[1], abs=0.05)
    assert many[1] < 0.75
    # Things that are called something speak each for themselves.
    named = believe([plain(1, 1.0, k) for k in range(10)], [PRIOR]).folder
    assert named[1] > 0.85
    # And things of one noun, in between.
    alike = believe([plain(1, 1.0, "post")] * 10, [PRIOR]).folder
    assert few[1] < alike[1] < named[1]


def test_a_folder_has_no_more_voices_than_are_taken_for_independent():
    strong = [believe([plain(1, 0.3, k) for k in range(n)], [PRIOR]).folder[1] for n in (int(VOICES), 5 * int(VOICES))]
    assert strong[1] == pytest.approx(strong[0], abs=0.01)
    assert believe([plain(1, 0.3, k) for k in range(4)], [PRIOR]).folder[1] < strong[0] - 0.1


def test_an_odd_one_is_told_from_its_folder_and_one_that_says_nothing_goes_with_it():
    voices = [*(plain(1, 5.0, k) for k in range(9)), plain(2, 9.0, "odd"), plain(0, 0.0, "dumb")]
    found = believe(voices, [PRIOR])
    assert found.files[:9].argmax(axis=1).tolist() == [1] * 9
    assert found.files[9].argmax() == 2
    assert found.files[10].argmax() == 1
    # Where more are odd, less is certain of one that says nothing.
    split = [
        *(plain(1, 5.0, k) for k in range(6)),
        *(plain(2, 9.0, f"odd{k}") for k in range(3)),
        plain(0, 0.0, "dumb"),
    ]
    assert believe(split, [PRIOR]).files[9, 1] < found.files[10, 1]


def test_what_people_settle_is_beyond_all_guesses():
    own = np.array([0.0, 0.0, 0.0])
    assert settled_belief(own, PRIOR, [2]).argmax() == 2
    assert settled_belief(own, PRIOR, [2])[2] == pytest.approx(1 - ODD + ODD * PRIOR[2])
    # Only what the file itself says can make it odd.
    loud = np.array([0.0, -9.0, -9.0])
    assert settled_belief(loud, PRIOR, [2]).argmax() == 0


def test_a_folder_never_answers_what_is_nobodys_custom_and_an_odd_file_may():
    customs = np.array([1.0, 0.0, 1.0])
    weak = [plain(1, 1.0, k) for k in range(8)]
    assert believe(weak, [PRIOR]).folder.argmax() == 1
    found = believe(weak, [PRIOR], customs)
    assert found.folder[1] < 1e-6
    assert (found.files[:, 1] < 0.2).all()
    plainly = believe([*(plain(0, 4.0, k) for k in range(7)), plain(1, 12.0, 7)], [PRIOR], customs)
    assert plainly.files[7].argmax() == 1
