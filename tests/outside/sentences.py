"""Print every sentence that the server or the core may say to somebody: python -m tests.outside.sentences.

A line of JSON each: the file, and the text. Docstrings are for whoever reads the code, and are none.
"""

import ast
import json
import re
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
SENTENCE = re.compile(r"[A-Z“{].*[a-z]{2} .*[a-z]{2}", re.S)


def _docstrings(tree: ast.Module) -> set[int]:
    found = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef):
            found |= {id(each.value) for each in node.body if isinstance(each, ast.Expr)}
    return found


def sentences(path: Path) -> Iterator[str]:
    """The texts in a file that begin like a sentence and have several words; what is put into them is “…”."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    left_out = _docstrings(tree)
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            left_out |= {id(each) for each in node.values}
            parts = [each.value if isinstance(each, ast.Constant) else " … " for each in node.values]
            text = "".join(map(str, parts))
        elif isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in left_out:
            text = node.value
        else:
            continue
        if SENTENCE.match(text.lstrip(" …")):
            yield text


if __name__ == "__main__":
    for folder in ("stillpage", "stillpage_core"):
        for path in sorted((ROOT / folder).rglob("*.py")):
            if "migrations" not in path.parts:
                for text in sentences(path):
                    print(json.dumps([str(path.relative_to(ROOT)), text]))
