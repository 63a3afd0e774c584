"""Methods are read as cooks write them: verbs in their order, what each is done to, for how long and how hot."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.appraisal import appraise
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.service.method import Action, actions
from fresh_ladle.core.service.naming import known_foods

DISH = """Dish
2 cups cooked chickpeas
1/2 cup tahini
3 Tbsp lemon juice
2 cloves garlic
1/4 cup olive oil
1 tsp salt
1 tsp cumin
1/2 cup parsley
1 cucumber
3 tomatoes
1 red onion
4 oz feta
1 head romaine lettuce
1 cup yogurt
1/4 cup mint
1 cup dry bulgur
3 carrots
1/2 cup walnuts
1 Tbsp honey
2 Tbsp white vinegar
"""
SENTENCES = [
    tuple(part.strip() for part in line.split("|"))
    for line in (Path(__file__).parent.parent / "service" / "methods.txt").read_text().splitlines()
    if "|" in line and not line.startswith("#")
]


@pytest.fixture(scope="module")
def read(knowledge: Knowledge):  # type: ignore[no-untyped-def]
    recipe = read_recipe(DISH, Reader(knowledge.pantry, knowledge.preparations), 4).recipe
    known = known_foods(appraise(recipe, knowledge).portions)
    names = {line.id: line.named.removeprefix("cooked ") for line in recipe.lines}

    def reading(sentence: str) -> list[tuple[Action, set[str]]]:
        found = actions([sentence], recipe.lines, known, knowledge.work)
        return [(a, {names[i] for i in a.lines}) for a in found if a.verb]

    return reading


@pytest.mark.parametrize(("sentence", "meant"), SENTENCES, ids=[s for s, _ in SENTENCES])
def test_sentence(read, sentence: str, meant: str) -> None:  # type: ignore[no-untyped-def]
    found, wanted = read(sentence), meant.split(";")
    assert len(found) == len(wanted), [a.verb for a, _ in found]
    for (action, foods), want in zip(found, wanted, strict=True):
        match = re.match(r"([^\d\[]+?)\s*(?:([\d.]+)(?:-(\d+))?)?\s*(?:\[(.*)\])?$", want.strip())
        assert match
        assert action.verb == match[1]
        said = (float(match[2]), float(match[3] or match[2])) if match[2] else None
        assert (action.minutes and (action.minutes.low, action.minutes.high)) == said
        if match[4] and match[4] != "*":
            assert foods == {name.strip() for name in match[4].split(",")}


def test_heat_is_read_in_either_unit(read) -> None:  # type: ignore[no-untyped-def]
    for said in ("Roast the carrots at 200 °C (400 °F) 30 minutes.", "Roast the carrots at 390F for half an hour."):
        ((action, _),) = read(said)
        assert action.celsius in (199, 200)
        assert action.minutes is not None
        assert action.minutes.value == 30


@pytest.mark.parametrize("remark", ["It thickens a little.", "This keeps for 3 days.", "Best the same day."])
def test_a_remark_is_no_work(read, remark: str) -> None:  # type: ignore[no-untyped-def]
    assert read(remark) == []


def test_a_thing_is_no_order(read) -> None:  # type: ignore[no-untyped-def]
    ((action, foods),) = read("Whisk the vinegar, salt, honey and oil.")
    assert action.verb == "whisk"
    assert foods == {"white vinegar", "salt", "honey", "olive oil"}
