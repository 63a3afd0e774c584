"""Tasting: critical numbers against the published table, designs balanced for every panel,
statistics against SciPy and worked examples."""

from __future__ import annotations

import csv
from collections import Counter
from itertools import pairwise
from math import comb
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.tasting.designs import (
    TRIANGLES,
    blind_codes,
    is_patterned,
    serving_orders,
    triangles,
    williams,
)
from fresh_ladle.core.tasting.difference import (
    Question,
    chance_by_guessing,
    difference,
    most_allowed_for_similar,
    needed_right,
    panel_needed,
    power,
)
from fresh_ladle.core.tasting.liking import (
    checked_ranks,
    corrected,
    liking,
    panel_for_liking,
    penalties,
    ranks,
    read_liking,
)
from fresh_ladle.core.tasting.round import (
    Cup,
    is_right,
    read_round,
    served,
)
from fresh_ladle.core.tasting.simulated import simulated_answers, simulated_scores
from fresh_ladle.core.tasting.verdict import (
    forced_sentence,
    is_similar,
    just_right_sentence,
    liking_sentence,
    often,
    ranking_sentence,
)

TABLE = list(
    csv.DictReader(
        (Path(__file__).parent.parent / "tasting" / "critical.csv")
        .read_text(encoding="utf-8")
        .splitlines()
    )
)
COLUMNS = [
    ("triangle_05", Question.TRIANGLE, 0.05),
    ("triangle_01", Question.TRIANGLE, 0.01),
    ("triangle_001", Question.TRIANGLE, 0.001),
    ("pair_05", Question.PAIR, 0.05),
    ("pair_01", Question.PAIR, 0.01),
    ("preference_05", Question.PREFERENCE, 0.05),
    ("preference_01", Question.PREFERENCE, 0.01),
]


@pytest.mark.parametrize(("column", "question", "alpha"), COLUMNS, ids=[c for c, *_ in COLUMNS])
def test_critical_numbers_are_those_of_the_table_for_panels_of_6_to_60(
    column: str, question: Question, alpha: float
) -> None:
    assert len(TABLE) == 55
    for row in TABLE:
        expected = int(row[column]) if row[column] else None
        assert needed_right(int(row["n"]), question, alpha) == expected, row["n"]


def test_the_chance_by_guessing_is_the_binomial_sum() -> None:
    by_hand = sum(comb(18, k) * (1 / 3) ** k * (2 / 3) ** (18 - k) for k in range(10, 19))
    assert chance_by_guessing(18, 10, Question.TRIANGLE) == pytest.approx(by_hand)
    assert chance_by_guessing(10, 5, Question.PREFERENCE) == 1.0


NEEDED = [(0.2, 94, 124), (0.3, 42, 57), (0.4, 25, 34), (0.5, 16, 22)]


@pytest.mark.parametrize(("tell", "for_80", "for_90"), NEEDED)
def test_panels_needed_are_those_of_the_table(tell: float, for_80: int, for_90: int) -> None:
    assert panel_needed(tell, Question.TRIANGLE, 0.8) == for_80
    assert panel_needed(tell, Question.TRIANGLE, 0.9) == for_90


SIMILAR = [
    (18, 5, 4),
    (24, 8, 6),
    (30, 11, 9),
    (36, 13, 11),
    (48, 19, 16),
    (60, 25, 21),
    (90, 39, 33),
]


@pytest.mark.parametrize(("n", "below_30", "below_20"), SIMILAR)
def test_similar_enough_is_a_question_of_its_own(n: int, below_30: int, below_20: int) -> None:
    assert most_allowed_for_similar(n, 0.3) == below_30
    assert most_allowed_for_similar(n, 0.2) == below_20


def test_a_result_tells_how_many_can_tell_with_its_doubt() -> None:
    found = difference(18, 10, Question.TRIANGLE)
    assert (found.needed, found.found) == (10, True)
    assert found.tell[0] == pytest.approx((10 / 18 - 1 / 3) / (2 / 3))
    assert found.tell[1] < found.tell[0] < found.tell[2]
    assert not difference(18, 9, Question.TRIANGLE).found
    assert difference(18, 3, Question.TRIANGLE).tell[0] == 0.0
    for wrong in ((0, 0), (5, 6), (5, -1)):
        with pytest.raises(ValueError, match="cannot be"):
            difference(*wrong, Question.PAIR)


@given(n=st.integers(6, 60), tell=st.floats(0, 1))
def test_power_grows_with_those_who_can_tell(n: int, tell: float) -> None:
    less, more = power(n, tell / 2, Question.TRIANGLE), power(n, tell, Question.TRIANGLE)
    assert 0 <= less <= more + 1e-12 <= 1 + 1e-9
    assert power(n, 0.0, Question.TRIANGLE) <= 0.05


GIVEN_SQUARES = {4: 4, 6: 6, 3: 6, 5: 10, 2: 2}


@pytest.mark.parametrize("samples", GIVEN_SQUARES)
def test_williams_orders_balance_places_and_neighbors(samples: int) -> None:
    square = williams(samples)
    assert len(square) == GIVEN_SQUARES[samples]
    for place in range(samples):
        assert len(set(Counter(row[place] for row in square).values())) == 1
    after = Counter(pair for row in square for pair in pairwise(row))
    assert len(after) == samples * (samples - 1)
    assert len(set(after.values())) == 1


@given(tasters=st.integers(3, 60), samples=st.integers(2, 6), seed=st.integers(0, 10_000))
def test_orders_are_balanced_for_every_panel(tasters: int, samples: int, seed: int) -> None:
    orders = serving_orders(tasters, samples, seed)
    assert len(orders) == tasters
    assert all(sorted(order) == list(range(samples)) for order in orders)
    rows = Counter(orders)
    assert max(rows.values()) - min(rows[row] for row in williams(samples)) <= 1


@given(tasters=st.integers(3, 60), seed=st.integers(0, 10_000))
def test_triangles_are_balanced_for_every_panel(tasters: int, seed: int) -> None:
    found = triangles(tasters, seed)
    used = Counter(found)
    assert max(used.values()) - min(used[t] for t in TRIANGLES) <= 1
    places = Counter(next(n for n, cup in enumerate(t) if t.count(cup) == 1) for t in found)
    assert max(places.values()) - min(places[p] for p in range(3)) <= 1
    odd_is_a = sum(t.count("A") == 1 for t in found)
    assert abs(2 * odd_is_a - tasters) <= 1


@given(tasters=st.integers(1, 60), samples=st.integers(2, 6), seed=st.integers(0, 10_000))
def test_codes_differ_and_none_is_patterned(tasters: int, samples: int, seed: int) -> None:
    rows = blind_codes(tasters, samples, seed)
    codes = [code for row in rows for code in row]
    assert len(codes) == tasters * samples
    assert all(100 <= code <= 999 and not is_patterned(code) for code in codes)
    assert len(set(codes)) == len(codes)
    assert rows == blind_codes(tasters, samples, seed)


PATTERNED = [
    (111, True),
    (123, True),
    (321, True),
    (911, True),
    (550, True),
    (246, True),
    (417, False),
    (382, False),
]


@pytest.mark.parametrize(("code", "patterned"), PATTERNED)
def test_what_is_a_pattern(code: int, patterned: bool) -> None:
    assert is_patterned(code) is patterned


@pytest.mark.parametrize(("tasters", "samples"), [(0, 2), (301, 2), (8, 1), (8, 7)])
def test_a_panel_that_cannot_be_is_refused(tasters: int, samples: int) -> None:
    with pytest.raises(RecipeError):
        serving_orders(tasters, samples, 1)


FIRST = [6, 7, 5, 6, 8, 6, 7, 5, 6, 7, 6, 5, 7, 6, 6, 7]
SECOND = [7, 7, 6, 7, 8, 7, 8, 6, 6, 8, 7, 6, 7, 7, 7, 7]


def test_liking_is_a_paired_difference_with_its_range() -> None:
    found = liking(FIRST, SECOND)
    apart = [b - a for a, b in zip(FIRST, SECOND, strict=True)]
    mean = sum(apart) / 16
    sd = (sum((d - mean) ** 2 for d in apart) / 15) ** 0.5
    assert found.difference == pytest.approx(mean)
    assert found.high - mean == pytest.approx(2.1314 * sd / 4, rel=1e-3)
    assert found.p < 0.001
    assert liking(FIRST, FIRST).p == 1.0
    with pytest.raises(ValueError, match="need one from each"):
        liking([5, 6], [5, 6])


def test_panels_for_liking_are_as_large_as_the_formula_says() -> None:
    assert panel_for_liking(0.5) == pytest.approx(104, abs=1)
    assert panel_for_liking(1.0) == pytest.approx(28, abs=1)


def test_a_side_of_just_about_right_is_acted_on_when_it_is_large_and_costly() -> None:
    answers = [3] * 6 + [4, 4, 5] + [2]
    scores = [8] * 6 + [5, 5, 4] + [7.5]
    little, much = penalties(answers, scores)
    assert (much.side, much.share, much.act) == ("too much", 0.3, True)
    assert much.drop == pytest.approx(8 - 14 / 3)
    assert not little.act
    assert penalties([1, 5], [3, 4]) == []


def test_ranks_are_read_by_their_sums() -> None:
    found = ranks([(1, 2, 3)] * 7 + [(2, 1, 3)])
    assert found.sums == (9.0, 15.0, 24.0)
    assert found.p < 0.01
    assert found.least_difference == pytest.approx(1.96 * (8 * 3 * 4 / 6) ** 0.5)
    with pytest.raises(ValueError, match="none twice"):
        ranks([(1, 1, 2)] * 4)
    assert found.apart(0, 2)
    assert not found.apart(0, 1), "6 apart, 7.8 are needed"


@given(rows=st.lists(st.permutations([1, 2, 3, 4]), min_size=3, max_size=40))
def test_ranks_agree_with_the_library_where_it_has_the_test(rows: list[list[int]]) -> None:
    found = ranks(rows)
    expected = stats.friedmanchisquare(*np.asarray(rows, float).T)
    assert found.p == pytest.approx(float(expected.pvalue))


def scores_of(*columns: list[int]) -> dict[int, dict[str, dict[str, int]]]:
    rows = zip(*columns, strict=True)
    return {
        n: {s: {"liking": v} for s, v in zip("ABCD", row, strict=False)}
        for n, row in enumerate(rows, start=1)
    }


def test_liking_of_three_versions_is_corrected_for_every_pair() -> None:
    third = [score + 2 for score in FIRST[:8]] + [score + 1 for score in FIRST[8:]]
    read = read_liking(scores_of(FIRST, SECOND, third), "ABC")
    assert [(p.first, p.second) for p in read.pairs] == [("A", "B"), ("A", "C"), ("B", "C")]
    assert all(p.p >= p.result.p for p in read.pairs)
    plain = stats.ttest_rel(third, FIRST)
    assert read.pairs[1].result.p_t == pytest.approx(float(plain.pvalue))
    assert len(read.by_seat) == 16
    half = {**scores_of(FIRST, SECOND, third), 3: {"A": {"liking": 9}}}
    assert len(read_liking(half, "ABC").by_seat) == 15, "half a ballot is left out"


ALIKE, LIKED_MORE = [5, 6, 7, 6, 5, 7, 6, 5, 6, 7], [7, 8, 8, 8, 7, 9, 8, 7, 8, 9]
SAID_OF_LIKING = [
    ((ALIKE, LIKED_MORE), "Y is liked clearly more than X, by 1.9 points of nine."),
    ((LIKED_MORE, ALIKE), "X is liked clearly more than Y, by 1.9 points of nine."),
    ((ALIKE, list(reversed(ALIKE))), "No difference in liking shown: 0.0 points apart"),
    (
        (ALIKE, LIKED_MORE, list(reversed(ALIKE))),
        "Y is liked more than each of the others, by 1.9 points of nine",
    ),
    (
        (ALIKE, ALIKE, list(reversed(ALIKE))),
        "No difference in liking shown: 0.0 points apart at most",
    ),
    (
        (LIKED_MORE, [8, 7, 9, 7, 8, 8, 7, 8, 9, 8], ALIKE),
        "The other pairs are not shown to differ.",
    ),
]


@pytest.mark.parametrize(
    ("columns", "said"), SAID_OF_LIKING, ids=[said[:30] for _, said in SAID_OF_LIKING]
)
def test_only_what_liking_shows_is_said(columns: tuple[list[int], ...], said: str) -> None:
    read = read_liking(scores_of(*columns), "ABC"[: len(columns)])
    assert said in liking_sentence(read, {"A": "X", "B": "Y", "C": "Z"})


def test_only_what_ranks_show_is_said() -> None:
    clear = ranks([(1, 2, 3)] * 12)
    assert ranking_sentence(clear, "XYZ") == "X is ranked before Y and Z; Y is ranked before Z."
    part = ranks([(1, 2, 3), (2, 1, 3)] * 6)
    assert (
        ranking_sentence(part, "XYZ")
        == "X is ranked before Z; Y is ranked before Z. The other pairs are not shown to differ."
    )
    none = ranks([(1, 2, 3), (3, 1, 2), (2, 3, 1)] * 4)
    assert ranking_sentence(none, "XYZ").startswith("No order shown")


def test_what_is_worth_mending_is_said_costliest_first() -> None:
    salty = penalties([3] * 6 + [5] * 4, [8] * 6 + [5] * 4)
    flat = penalties([3] * 7 + [1] * 3, [8] * 7 + [6.5] * 3)
    said = just_right_sentence({"sour": flat, "salt": salty})
    assert said.startswith(
        "Worth mending: salt: too much for 40% of them, who like it 3.0 points less; sour: too"
        " little"
    )
    fine = penalties([3] * 9 + [1], [8] * 9 + [2])
    assert just_right_sentence({"salt": fine}).startswith("Nothing is worth mending")


SAID_OF_CHOICES = [
    (Question.TRIANGLE, 18, 10, "They taste different: 10 of 18"),
    (Question.TRIANGLE, 18, 9, "That does not make them the same."),
    (Question.TRIANGLE, 60, 20, "Similar enough: with 20 of 60 right, fewer than 30% can tell"),
    (Question.PAIR, 20, 15, "X is more salty: 15 of 20 said so."),
    (Question.PAIR, 20, 14, "Not shown to be more salty"),
    (Question.PREFERENCE, 20, 15, "X is preferred, by 15 of 20."),
    (Question.PREFERENCE, 20, 14, "No preference shown: 14 of 20 chose X."),
    (Question.PREFERENCE, 20, 10, "No preference shown: 10 of 20 chose each."),
]


@pytest.mark.parametrize(("question", "n", "right", "said"), SAID_OF_CHOICES)
def test_only_what_choices_show_is_said(question: Question, n: int, right: int, said: str) -> None:
    assert said in forced_sentence(question, n, right, "X", "salt")


def test_a_made_up_panel_likes_what_lies_in_its_windows() -> None:
    seats = dict(enumerate(served(Question.LIKING, 60, 7, 3), start=1))
    outside = {"A": {"salt": 0.0}, "B": {"salt": 3.0}, "C": {"salt": -3.0}}
    said = simulated_scores(seats, Question.LIKING, outside, ["salt"], 1)
    by_seat = {n: {c.sample: said[n][c.code] for c in cups} for n, cups in seats.items()}
    read = read_liking(by_seat, "ABC", ["salt"])
    assert read.means["A"] > read.means["B"] + 1
    assert sum(row["B"]["salt"] for row in by_seat.values()) / 60 > 3.8
    assert sum(row["C"]["salt"] for row in by_seat.values()) / 60 < 2.2
    order = simulated_scores(seats, Question.RANKING, outside, [], 1)
    assert all(sorted(r["rank"] for r in row.values()) == [1, 2, 3] for row in order.values())


def test_only_scores_compare_more_than_two() -> None:
    assert {c.sample for c in served(Question.RANKING, 8, 1, 4)[0]} == set("ABCD")
    for question, samples, said in (
        (Question.PAIR, 3, "two versions"),
        (Question.LIKING, 5, "two to 4"),
    ):
        with pytest.raises(RecipeError, match=said):
            served(question, 8, 1, samples)


def test_chances_are_said_in_tens_but_never_as_certain() -> None:
    said = ["nearly always", "6 times in 10", "once in 10", "hardly ever"]
    assert [often(p) for p in (0.96, 0.62, 0.06, 0.01)] == said


def test_each_cup_has_a_rank_of_its_own() -> None:
    assert checked_ranks({417: 2, 382: 1}) == {417: {"rank": 2}, 382: {"rank": 1}}
    for wrong in ({417: 1, 382: 1}, {417: 0, 382: 1}, {417: 2, 382: 3}):
        with pytest.raises(ValueError, match="another number"):
            checked_ranks(wrong)


def test_several_questions_are_corrected_for_being_several() -> None:
    assert corrected({"a": 0.01, "b": 0.04, "c": 0.03}) == pytest.approx(
        {"a": 0.03, "c": 0.06, "b": 0.06}
    )


TRIO = (Cup(417, "A"), Cup(382, "B"), Cup(659, "A"))
DUO = (Cup(417, "B"), Cup(382, "A"))


def test_an_answer_is_right_by_what_is_in_its_cup() -> None:
    assert is_right(Question.TRIANGLE, TRIO, 382, "A")
    assert not is_right(Question.TRIANGLE, TRIO, 417, "B")
    assert is_right(Question.PAIR, DUO, 417, "B")
    assert not is_right(Question.PAIR, DUO, 417, "A")
    with pytest.raises(ValueError, match="no cup 111"):
        is_right(Question.PAIR, DUO, 111, "A")


def answered(
    question: Question, tasters: int, right: int, expected: str = "A"
) -> tuple[dict, dict]:  # type: ignore[type-arg]
    seats = dict(enumerate(served(question, tasters, 5), start=1))
    answers = {}
    for seat, cups in seats.items():
        good = [c.code for c in cups if is_right(question, cups, c.code, expected)]
        bad = [c.code for c in cups if c.code not in good]
        answers[seat] = good[0] if seat <= right else bad[0]
    return seats, answers


def test_a_round_is_read_with_every_taster() -> None:
    seats, answers = answered(Question.TRIANGLE, 18, 11)
    read = read_round(Question.TRIANGLE, seats, answers, "A")
    assert (read.difference.right, read.difference.found, sum(read.right.values())) == (
        11,
        True,
        11,
    )
    with pytest.raises(ValueError, match="no ballot"):
        read_round(Question.TRIANGLE, seats, {}, "A")


def test_a_preference_is_read_for_the_side_that_more_chose() -> None:
    seats, answers = answered(Question.PREFERENCE, 20, 4)
    read = read_round(Question.PREFERENCE, seats, answers, "A")
    assert (read.leans, read.difference.right, read.difference.found) == ("B", 16, True)


def test_not_found_is_not_the_same_and_similar_is_only_said_of_a_panel_that_can() -> None:
    small = read_round(Question.TRIANGLE, *answered(Question.TRIANGLE, 12, 3), "A")
    assert not small.difference.found
    assert not is_similar(12, 3, Question.TRIANGLE)
    large = read_round(Question.TRIANGLE, *answered(Question.TRIANGLE, 60, 20), "A")
    assert not large.difference.found
    assert is_similar(60, 20, Question.TRIANGLE)
    assert not is_similar(60, 20, Question.PAIR)


WARNED = [
    (Question.PAIR, 4, 4, 0, "Too few tasters"),
    (Question.TRIANGLE, 8, 3, 0, "A small panel"),
    (Question.TRIANGLE, 24, 13, 0, "One taster decides it"),
    (Question.TRIANGLE, 24, 12, 0, "One taster decides it"),
    (Question.TRIANGLE, 24, 20, 3, "3 ballots are missing"),
]


@pytest.mark.parametrize(("question", "tasters", "right", "missing", "said"), WARNED)
def test_what_is_to_be_read_with_a_result(
    question: Question, tasters: int, right: int, missing: int, said: str
) -> None:
    seats, answers = answered(question, tasters, right)
    kept = {seat: code for seat, code in answers.items() if seat > missing}
    assert any(w.startswith(said) for w in read_round(question, seats, kept, "A").warnings)


def test_a_clear_round_has_no_warning_and_a_first_cup_that_wins_has() -> None:
    assert read_round(Question.TRIANGLE, *answered(Question.TRIANGLE, 48, 40), "A").warnings == ()
    seats = dict(enumerate(served(Question.PAIR, 20, 5), start=1))
    first = {seat: cups[0].code for seat, cups in seats.items()}
    assert any(
        "chose the first cup" in w for w in read_round(Question.PAIR, seats, first, "A").warnings
    )


def test_a_made_up_panel_tells_large_differences_and_guesses_none() -> None:
    seats = dict(enumerate(served(Question.TRIANGLE, 300, 7), start=1))
    far = read_round(
        Question.TRIANGLE, seats, simulated_answers(Question.TRIANGLE, seats, 5.0, 1), "A"
    )
    none = read_round(
        Question.TRIANGLE, seats, simulated_answers(Question.TRIANGLE, seats, 0.0, 1), "A"
    )
    assert far.difference.right > 250
    assert 75 <= none.difference.right <= 125
    step = dict(enumerate(served(Question.PAIR, 300, 7), start=1))
    one = read_round(Question.PAIR, step, simulated_answers(Question.PAIR, step, 1.0, 1), "B")
    assert 205 <= one.difference.right <= 245, "one step is told by about three in four"
