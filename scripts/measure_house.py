"""How the house reads: complexity as radon counts it, widths, files to a folder, and names used too
often.

Prints a line for each measure with its floor. `tests/test_house.py` holds the floors.
"""

from __future__ import annotations

import re
import sys
from collections import Counter
from dataclasses import dataclass
from pathlib import Path

from radon.complexity import cc_visit

SRC = Path(__file__).parent.parent / "src" / "fresh_ladle"
MEAN, MOST, OFTEN, OVER_OFTEN = 3.5, 15, 10, 0.03
"""Complexity: the mean, of the worst, and the share that may lie over ten."""
WIDTH, FILES = 100, 25


@dataclass(frozen=True, slots=True)
class House:
    """Complexity by function, lines that are too wide, and files by folder."""

    complexity: dict[str, int]
    wide: list[str]
    files: Counter[str]

    @property
    def mean(self) -> float:
        return sum(self.complexity.values()) / len(self.complexity)

    @property
    def over_often(self) -> float:
        return sum(c > OFTEN for c in self.complexity.values()) / len(self.complexity)


def measured() -> House:
    """The shipped code, without what others wrote or what has landed and stays."""
    complexity, wide, files = dict[str, int](), list[str](), Counter[str]()
    for path in sorted(
        p
        for p in SRC.rglob("*")
        if p.is_file() and not {"vendor", "migrations", "__pycache__"} & set(p.parts)
    ):
        name = str(path.relative_to(SRC))
        files[str(path.parent.relative_to(SRC))] += 1
        if path.suffix != ".py":
            continue
        text = path.read_text(encoding="utf-8")
        wide += [f"{name}:{n}" for n, line in enumerate(text.splitlines(), 1) if len(line) > WIDTH]
        for block in cc_visit(text):
            for one in (block, *getattr(block, "closures", ()), *getattr(block, "methods", ())):
                if type(one).__name__ == "Function":
                    complexity[f"{name}:{one.lineno} {one.name}"] = one.complexity
    return House(complexity, wide, files)


def main() -> None:
    """Prints what was measured; with `--all` each that is over."""
    house = measured()
    worst = max(house.complexity.values())
    print(f"functions {len(house.complexity)}, mean complexity {house.mean:.2f} (under {MEAN})")
    print(
        f"the worst {worst} (at most {MOST}), over {OFTEN}: {house.over_often:.1%} (at most"
        f" {OVER_OFTEN:.0%})"
    )
    print(f"lines wider than {WIDTH}: {len(house.wide)}")
    print(f"folders of more than {FILES} files: {[f for f in house.files.items() if f[1] > FILES]}")
    if "--all" in sys.argv:
        for name, count in sorted(house.complexity.items(), key=lambda one: -one[1]):
            if count > OFTEN:
                print(count, name)
        print("\n".join(house.wide))
    bound = Counter(
        re.findall(
            r"^ +(\w+)(?:: [^=\n]+)? = ", "\n".join(p.read_text() for p in SRC.rglob("*.py")), re.M
        )
    )
    print("names bound most:", bound.most_common(12))


if __name__ == "__main__":
    main()
