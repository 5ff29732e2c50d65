"""No module imports, by way of others, itself: neither in the core nor in the application."""

import ast
from collections.abc import Iterator
from graphlib import CycleError, TopologicalSorter
from pathlib import Path
from unittest import TestCase

ROOT = Path(__file__).parent.parent.parent


def modules() -> dict[str, Path]:
    found = {}
    for package in ("stillpage_core", "stillpage"):
        for file in (ROOT / package).rglob("*.py"):
            name = ".".join(file.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__")
            found[name] = file
    return found


def imported(name: str, file: Path, known: dict[str, Path]) -> Iterator[str]:
    """What a module imports when it is imported itself; not what only types need, nor what a function imports."""
    package = name if file.name == "__init__.py" else name.rpartition(".")[0]
    waiting: list[ast.stmt] = list(ast.parse(file.read_text()).body)
    while waiting:
        node = waiting.pop()
        if isinstance(node, ast.Import):
            yield from (each.name for each in node.names if each.name in known)
        elif isinstance(node, ast.ImportFrom):
            above = package.split(".")[: len(package.split(".")) - node.level + 1] if node.level else []
            base = ".".join([*above, *([node.module] if node.module else [])])
            for each in node.names:
                full = f"{base}.{each.name}"
                yield from (known.keys() & {full}) or (known.keys() & {base})
        elif isinstance(node, ast.If | ast.Try) and "TYPE_CHECKING" not in ast.unparse(node).split("\n")[0]:
            waiting += node.body


class Imports(TestCase):
    def test_there_is_no_circle(self):
        known = modules()
        self.assertGreater(len(known), 200)
        graph = {name: set(imported(name, file, known)) - {name} for name, file in known.items()}
        self.assertIn("stillpage_core.errors", graph["stillpage_core.document.node"])
        try:
            TopologicalSorter(graph).prepare()
        except CycleError as error:
            self.fail(" imports ".join(error.args[1]))

    def test_the_core_knows_nothing_of_the_application(self):
        known = modules()
        for name, file in known.items():
            if name.startswith("stillpage_core"):
                self.assertNotRegex(file.read_text(), r"(?m)^\s*(?:from|import) (?:stillpage\b|django)", name)
