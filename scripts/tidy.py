"""One formatter for each language. Writes the files in place; with --check it only names those that
differ."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import cssbeautifier  # type: ignore[import-untyped]
import jsbeautifier  # type: ignore[import-untyped]

ROOT = Path(__file__).parent.parent
STATIC = ROOT / "src/fresh_ladle/web/static"
TEMPLATES = ROOT / "src/fresh_ladle/web"


def formatted_css(text: str) -> str:
    options = cssbeautifier.default_options()
    options.indent_size, options.end_with_newline = 2, True
    return str(cssbeautifier.beautify(text, options))


def formatted_script(text: str) -> str:
    options = jsbeautifier.default_options()
    options.indent_size, options.end_with_newline = 2, True
    options.templating = ["none"]
    return str(jsbeautifier.beautify(text, options))


def main() -> int:
    check = "--check" in sys.argv
    tools = Path(sys.executable).parent
    failed = subprocess.run(
        [
            tools / "ruff",
            "format",
            "--quiet",
            *(["--check"] if check else []),
            "src",
            "tests",
            "scripts",
        ],
        cwd=ROOT,
    ).returncode
    failed |= (
        subprocess.run(
            [tools / "djlint", "--quiet", "--check" if check else "--reformat", TEMPLATES], cwd=ROOT
        ).returncode
        * check
    )
    for path in (*sorted(STATIC.glob("*.js")), *sorted(TEMPLATES.glob("*/**/*.css"))):
        if "vendor" in path.parts:
            continue
        text = path.read_text(encoding="utf-8")
        wanted = formatted_css(text) if path.suffix == ".css" else formatted_script(text)
        if text != wanted and check:
            print(f"not tidy: {path.relative_to(ROOT)}")
            failed = 1
        elif text != wanted:
            path.write_text(wanted, encoding="utf-8")
    if failed:
        print(
            "Files are not in the form the formatters give them: run ./ladle tidy", file=sys.stderr
        )
    return int(bool(failed))


if __name__ == "__main__":
    sys.exit(main())
