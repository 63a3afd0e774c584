"""Puts seeded faults into the source, one at a time and never in place, and counts those that the
tests catch.

python scripts/mutate.py [HOW_MANY] [SEED] [MODULE OR ROOM ...]     such as 40 1 store web
core/service; the core alone
                                                                    where none is named
"""

from __future__ import annotations

import random
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor, as_completed
from dataclasses import dataclass
from os import environ
from pathlib import Path

from cosmic_ray.ast import ast_nodes, get_ast_from_path
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator

ROOT = Path(__file__).parent.parent
SOURCE = ROOT / "src/fresh_ladle"
CORE = SOURCE / "core"
FAULTS = (
    "NumberReplacer",
    "ReplaceBinaryOperator_Add_Sub",
    "ReplaceBinaryOperator_Sub_Add",
    "ReplaceBinaryOperator_Mul_Div",
    "ReplaceBinaryOperator_Div_Mul",
    "ReplaceComparisonOperator_Lt_LtE",
    "ReplaceComparisonOperator_Lt_Gt",
    "ReplaceComparisonOperator_LtE_Lt",
    "ReplaceComparisonOperator_Gt_GtE",
    "ReplaceComparisonOperator_Gt_Lt",
    "ReplaceComparisonOperator_GtE_Gt",
    "ReplaceComparisonOperator_Eq_NotEq",
    "ReplaceComparisonOperator_NotEq_Eq",
    "ReplaceComparisonOperator_Is_IsNot",
    "ReplaceAndWithOr",
    "ReplaceOrWithAnd",
    "ReplaceTrueWithFalse",
    "ReplaceFalseWithTrue",
    "ReplaceUnaryOperator_USub_UAdd",
    "ReplaceUnaryOperator_Delete_Not",
    "AddNot",
    "ZeroIterationForLoop",
)
FOLDERS = {
    "core": (
        "core/test_*.py",
        "claims/test_*.py",
        "test_cli*.py",
        "test_data.py",
        "test_shelf.py",
        "web/test_services.py",
    ),
    "store": (
        "test_store.py",
        "test_backups.py",
        "test_shelf.py",
        "test_[mie]*.py",
        "web/test_*.py",
    ),
    "web": ("web/test_*.py",),
}
"""Where the tests of a layer lie, the nearest first."""
HARMLESS = (
    "lru_cache",
    "assert ",
    "__future__",
    "@dataclass",
    "_seconds +=",
    "strict=True",
    "FEW_NODES, MANY_NODES",
)
"""On such lines a fault changes speed or nothing at all."""
MAX_SECONDS = 900
AT_ONCE = 2


@dataclass(frozen=True, slots=True)
class Fault:
    """One change of one place. `occurrence` counts the places of a module where the same change can
    be made."""

    module: Path
    change: str
    occurrence: int
    line: int

    def __str__(self) -> str:
        text = self.module.read_text(encoding="utf-8").splitlines()[self.line - 1].strip()
        return (
            f"{self.module.relative_to(SOURCE)}:{self.line} {self.change.removeprefix('Replace')}:"
            f" {text}"
        )


def faults(module: Path) -> Iterator[Fault]:
    """All faults that can be put into a module."""
    lines = module.read_text(encoding="utf-8").splitlines()
    tree = get_ast_from_path(module)
    for change in FAULTS:
        operator = get_operator(f"core/{change}")()
        places = (
            start for node in ast_nodes(tree) for start, _ in operator.mutation_positions(node)
        )
        for occurrence, (line, _) in enumerate(places):
            if not any(word in lines[line - 1] for word in HARMLESS):
                yield Fault(module, change, occurrence, line)


def sample(modules: list[Path], count: int, seed: int) -> list[Fault]:
    """So many faults, each kind of change about as often as any other."""
    by_change: dict[str, list[Fault]] = {change: [] for change in FAULTS}
    for module in modules:
        for fault in faults(module):
            by_change[fault.change].append(fault)
    chance = random.Random(seed)
    for found in by_change.values():
        chance.shuffle(found)
    chosen: list[Fault] = []
    while len(chosen) < count and any(by_change.values()):
        chosen += [found.pop() for found in by_change.values() if found]
    return chosen[:count]


def tests_for(fault: Fault) -> list[str]:
    """What pytest runs: first the tests that import the module, then the others of its layer; for
    plans those that solve, for all else the quick ones."""
    if "plans" in fault.module.parts:
        names = ["core/test_pinned.py", "core/test_plans.py", "core/test_moves.py", "test_cli.py"]
        return [str(ROOT / "tests" / name) for name in names]
    layer = fault.module.relative_to(SOURCE).parts[0]
    files = [
        file
        for folder in FOLDERS.get(layer, ("test_*.py",))
        for file in sorted((ROOT / "tests").glob(folder))
    ]
    module = ".".join(fault.module.relative_to(SOURCE.parent).with_suffix("").parts)
    first = [file for file in files if re.search(rf"{module}\b", file.read_text(encoding="utf-8"))]
    return ["-m", "not slow and not browser", *map(str, dict.fromkeys([*first, *files]))]


def is_caught(fault: Fault) -> bool:
    """Whether a test fails when the fault is in a copy of the source."""
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / "src"
        shutil.copytree(
            ROOT / "src", source, ignore=shutil.ignore_patterns("__pycache__", "*.egg-info")
        )
        target = source / fault.module.relative_to(ROOT / "src")
        code = target.read_text(encoding="utf-8")
        mutated = mutate_code(code, get_operator(f"core/{fault.change}")(), fault.occurrence)
        if mutated is None:
            raise RuntimeError(f"no fault was made: {fault}")
        target.write_text(mutated, encoding="utf-8")
        command = [
            sys.executable,
            "-m",
            "pytest",
            "-q",
            "-x",
            "-p",
            "no:cacheprovider",
            *tests_for(fault),
        ]
        try:
            ran = subprocess.run(
                command,
                cwd=folder,
                env={**environ, "PYTHONPATH": f"{source}:{ROOT}"},
                capture_output=True,
                timeout=MAX_SECONDS,
            )
        except subprocess.TimeoutExpired:
            return True
        if ran.returncode not in (0, 1, 2):
            raise RuntimeError(f"the tests did not run: {ran.stdout[-500:]!r}")
        return ran.returncode != 0


def main() -> int:
    count, seed = (int(number) for number in (*sys.argv[1:3], *("100", "1")[len(sys.argv[1:3]) :]))
    named = [SOURCE / name for name in sys.argv[3:]] or [CORE]
    modules = [
        module
        for place in named
        for module in (sorted(place.rglob("*.py")) if place.is_dir() else [place])
        if module.stat().st_size and "migrations" not in module.parts
    ]
    chosen = sample(modules, count, seed)
    survivors = []
    with ThreadPoolExecutor(AT_ONCE) as pool:
        running = {pool.submit(is_caught, fault): fault for fault in chosen}
        for done in as_completed(running):
            fault, caught = running[done], done.result()
            print("caught  " if caught else "SURVIVED", fault, flush=True)
            if not caught:
                survivors.append(fault)
    print(f"{len(chosen) - len(survivors)} of {len(chosen)} faults were caught")
    return 1 if survivors else 0


if __name__ == "__main__":
    sys.exit(main())
