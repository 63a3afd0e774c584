"""Sends every route what its schema allows and much that it does not, for so many seconds: nothing
may answer 500.

Half of the numbers and names in addresses and forms are put right, so that requests reach past the
first check."""

from __future__ import annotations

import random
import re
from collections import Counter
from itertools import cycle
from pathlib import Path
from time import monotonic
from typing import Any

import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings
from schemathesis.core.result import Ok

from fresh_ladle.web.app import create_app
from fresh_ladle.web.demo import load_demo

PER_TURN = 10
SLOW = ("/recipes/{recipe_id}/plans", "/plan-many")
"""Routes that start a search: one request a turn is enough."""
SLOWEST_S = 60.0
"""What an answer may take where tests fill the machine: a booklet of all cards takes a few seconds
of a quiet one."""


class Fuzzer:
    """One workbench under fire. `failed` holds what answered 500, with what was sent."""

    def __init__(self, folder: Path) -> None:
        app = create_app(folder / "fuzz.db")
        self.workbench = app.state.workbench
        with self.workbench.store() as connection:
            load_demo(connection, self.workbench)
        self.schema = schemathesis.openapi.from_dict(app.openapi())
        self.schema.app = app
        self.answers: Counter[int] = Counter()
        self.failed: list[str] = []
        self.random = random.Random(7)

    def run(self, seconds: float) -> None:
        end = monotonic() + seconds
        operations = [o.ok() for o in self.schema.get_all_operations() if isinstance(o, Ok)]
        for turn, operation in enumerate(cycle(operations)):
            if monotonic() > end:
                return
            self._take_a_turn(operation, turn)

    def _take_a_turn(self, operation: Any, turn: int) -> None:
        count = 1 if operation.path.startswith(SLOW) and operation.method == "post" else PER_TURN

        @seed(turn)
        @settings(
            max_examples=count,
            deadline=None,
            database=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy())
        def send(case: Any) -> None:
            self._put_right(case)
            sent = f"{case.method} {case.formatted_path} {case.query} {str(case.body)[:300]}"
            try:
                headers = {"HX-Request": "true"} if self.random.random() < 0.5 else {}
                status = case.call(headers=headers, timeout=SLOWEST_S).status_code
            except Exception as error:
                self.failed.append(f"{sent}: {type(error).__name__}: {error}")
                return
            self.answers[status] += 1
            if status >= 500:
                self.failed.append(f"{sent}: {status}")

        send()

    def _put_right(self, case: Any) -> None:
        right = {
            "recipe_id": lambda: self.random.randint(1, 15),
            "line_id": lambda: f"l{self.random.randint(1, 9)}",
            "swap_id": lambda: self.random.choice(self.workbench.knowledge.swaps).id,
            "repair_id": lambda: self.random.choice(self.workbench.knowledge.repairs).id,
            "number": lambda: 1,
            "job_id": lambda: self.random.randint(1, 5),
            "plan_id": lambda: self.random.randint(1, 3),
            "nutrient": lambda: self.random.choice(["sodium_mg", "salt"]),
            "key": lambda: self.random.choice(["tahini", "feta"]),
            "revision": lambda: self._revision(case),
        }
        for place in (case.path_parameters, case.query, case.body):
            for name in place if isinstance(place, dict) else ():
                if name in right and self.random.random() < 0.6:
                    place[name] = right[name]()

    def _revision(self, case: Any) -> int:
        with self.workbench.store() as connection:
            row = connection.execute(
                "SELECT revision FROM draft WHERE recipe_id = ?", (self._recipe(case),)
            ).fetchone()
        return row["revision"] if row else 1

    @staticmethod
    def _recipe(case: Any) -> int:
        found = re.search(r"/recipes/(\d{1,9})\b", case.formatted_path)
        return int(found[1]) if found else 1


def fuzzed(folder: Path, seconds: float) -> Fuzzer:
    """A workbench after so many seconds of it, closed."""
    fuzzer = Fuzzer(folder)
    fuzzer.run(seconds)
    fuzzer.workbench.close()
    return fuzzer
