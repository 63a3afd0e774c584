"""Forms of one food: the table holds together, and swaps and questions draw on it."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.catalogue.form_swaps import ready_pairs
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.school import allows
from fresh_ladle.core.swaps.apply import applied_swap, swaps_for
from fresh_ladle.data.forms import load_forms
from fresh_ladle.data.preparations import load_preparations
from tests.conftest import Kitchen

FORMS = load_forms()


def test_every_form_is_a_food_and_its_family_is_what_the_stores_say(knowledge: Knowledge) -> None:
    for family, forms in FORMS.families.items():
        foods = [knowledge.pantry[form.food] for form in forms]
        assert {food.family for food in foods} == {family}
        assert {f.key for f in knowledge.pantry.relatives(foods[0])} == {
            form.food for form in forms
        }
    assert FORMS.family_of("walnuts") == "walnuts"


def test_dry_forms_agree_with_the_yields_of_boiling(knowledge: Knowledge) -> None:
    table, compared = load_preparations(), 0
    for form in (
        FORMS.families["chickpeas"] + FORMS.families["rice-brown"] + FORMS.families["quinoa"]
    ):
        if form.packing == "dry":
            boiled = table.bearing("boil", knowledge.pantry[form.food]).weight
            assert boiled.low <= 1 / form.grams.value <= boiled.high, form.food
            compared += 1
    assert compared == 3


def test_what_is_called_salted_holds_more_sodium_than_what_is_not(knowledge: Knowledge) -> None:
    plain, salted = {"none added", "unsalted"}, {"regular", "brined"}
    for forms in FORMS.families.values():
        for one in (f for f in forms if f.salt in plain):
            for other in (f for f in forms if f.salt in salted and f.state == one.state):
                had, has = (
                    knowledge.pantry[f.food].per_100_g["sodium_mg"] or 0.0 for f in (other, one)
                )
                assert has * one.per_gram_of(other) < had, (one.food, other.food)


@pytest.mark.parametrize(
    ("food", "instead"),
    [
        ("chickpeas-canned-drained", "chickpeas-cooked"),
        ("chickpeas-canned-rinsed", "chickpeas-canned-no-salt"),
        ("yogurt-whole", "yogurt-nonfat"),
        ("tuna-canned-oil", "tuna-canned-water"),
        ("cashews-roasted-salted", "cashews-roasted-unsalted"),
        ("ketchup", "ketchup-reduced-sodium"),
        ("corn-canned", "corn-canned-no-salt"),
    ],
)
def test_the_leaner_form_of_a_food_is_on_offer(
    food: str, instead: str, kitchen: Kitchen, knowledge: Knowledge
) -> None:
    now = kitchen.appraise({food: "100 g", "water": "50 g"}, "bean-salad")
    offered = {
        i.food for s in swaps_for(now.recipe.line("l1"), now.recipe, knowledge) for i in s.incoming
    }
    assert instead in offered


@pytest.mark.parametrize(
    ("food", "never"),
    [
        ("chickpeas-canned-drained", "chickpeas-dry"),
        ("mayonnaise", "mayonnaise-homemade"),
        ("mung-beans-cooked", "sprouts-mung"),
        ("yogurt-nonfat", "yogurt-whole"),
        ("miso-reduced-sodium", "miso"),
        ("green-peas-canned-drained", "green-peas-raw"),
    ],
)
def test_what_is_not_ready_not_safe_or_not_less_is_not_offered_as_a_form(
    food: str, never: str, knowledge: Knowledge
) -> None:
    assert f"form-{food}-to-{never}" not in {s.id for s in knowledge.swaps}


def test_every_form_swap_saves_what_it_says_and_keeps_the_schools_it_names(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    saves = {"salt": "sodium_mg", "oil": "fat_g", "sugar": "sugars_g"}
    swaps = [s for s in knowledge.swaps if s.id.startswith("form-")]
    assert len(swaps) > 100
    for swap in swaps:
        (out,) = swap.out
        now = kitchen.appraise({out: "100 g", "cucumber-peeled": "100 g"}, "bean-salad")
        made = applied_swap(now, "l1", swap, knowledge, now)
        assert made.effect.change[saves[swap.goal]] < 0, swap.id
        after = knowledge.pantry[swap.incoming[0].food]
        assert all(allows(SCHOOLS[school], after) for school in swap.schools), swap.id
        assert swap.incoming[0].per_gram == pytest.approx(
            FORMS[after.key].per_gram_of(FORMS[out]), abs=5e-4
        )


def test_what_a_question_offers_are_forms_of_one_food(knowledge: Knowledge) -> None:
    for doubt in knowledge.ambiguities:
        assert len({FORMS.family_of(key) for key in doubt.foods}) <= 1, doubt.id


def test_a_family_without_a_second_form_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    from fresh_ladle.data import forms, tables

    good = list(tables.rows("forms.csv"))
    wrong = {
        "none of fresh": [good[0] | {"packing": "in a sock"}, *good[1:]],
        "not in order": [good[0] | {"low": "3"}, *good[1:]],
        "stands twice": [*good, good[0]],
        "two forms or more": [*good, good[0] | {"family": "alone", "key": "walnuts"}],
    }
    for said, rows in wrong.items():
        monkeypatch.setattr(forms, "rows", lambda name, rows=rows: iter(rows))
        with pytest.raises(tables.DataError, match=said):
            forms.load_forms.__wrapped__()


def test_a_form_counts_by_what_stands_for_one_gram() -> None:
    dry, cooked = FORMS["chickpeas-dry"], FORMS["chickpeas-cooked"]
    assert cooked.per_gram_of(dry) == pytest.approx(2.3, abs=0.01)
    assert dry.per_gram_of(cooked) == pytest.approx(1 / 2.3, abs=0.01)
    assert replace(dry, grams=cooked.grams).per_gram_of(cooked) == 1


def test_cooked_and_steamed_stand_for_each_other_and_raw_for_neither() -> None:
    cooked = replace(FORMS["carrot-cooked"], food="a", state="cooked", packing="")
    steamed, raw = (
        replace(cooked, food="b", state="steamed"),
        replace(cooked, food="c", state="raw", packing="fresh"),
    )
    canned = replace(cooked, food="d", packing="canned drained")
    dry = replace(cooked, food="e", packing="dry")
    assert {(o.food, n.food) for o, n in ready_pairs([cooked, steamed, raw, canned, dry])} == {
        ("a", "b"),
        ("b", "a"),
        ("a", "d"),
        ("d", "a"),
        ("b", "d"),
        ("d", "b"),
        ("d", "c"),
    }
