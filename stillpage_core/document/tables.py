"""The grid of a table: which cell belongs to which place.

Places are found as the HTML Living Standard, 4.9.12.1 (“Forming a table”) finds them: each cell takes the first free
place of its row and reaches over ``colspan`` columns and ``rowspan`` rows.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..budget import spend
from .node import Node, make

WIDEST = 200
"""The most columns a table may have."""


@dataclass(frozen=True)
class CellPlace:
    """A cell with the row and column it begins at, counted from 0."""

    cell: Node
    row: int
    column: int


@dataclass(frozen=True)
class Grid:
    """Where the cells of a table stand. ``problem`` says what is wrong with the spans, if anything is; ``holes`` are
    places (row, column) without a cell, of a table whose spans are right."""

    places: tuple[CellPlace, ...]
    width: int
    height: int
    holes: tuple[tuple[int, int], ...]
    problem: str | None


def grid_of(rows: Sequence[Node]) -> Grid:
    """The grid of these ``table_row`` nodes."""
    taken: dict[tuple[int, int], CellPlace] = {}
    places: list[CellPlace] = []
    problem: str | None = None
    width = 0
    for row, node in enumerate(rows):
        column = 0
        for cell in node.content:
            while (row, column) in taken:
                column += 1
            place = CellPlace(cell, row, column)
            places.append(place)
            across, down = cell.attrs["colspan"], cell.attrs["rowspan"]
            if row + down > len(rows):
                problem = problem or f"a cell of row {row + 1} reaches below the last row"
            if column + across > WIDEST:
                problem = problem or f"row {row + 1} has more than {WIDEST} columns"
                across = max(1, WIDEST - column)
            # Of a table that is wrong already no more is looked at than its cells: its spans may be enormous.
            for below in range(row, min(row + down, len(rows)) if problem is None else row + 1):
                for beside in range(column, column + across):
                    if (below, beside) in taken:
                        problem = problem or f"two cells share a place in row {below + 1}"
                    taken[below, beside] = place
            column += across
            width = max(width, column)
    holes: tuple[tuple[int, int], ...] = ()
    if problem is None:
        holes = tuple(
            (row, column) for row in range(len(rows)) for column in range(width) if (row, column) not in taken
        )
    if holes and not problem:
        problem = f"row {holes[0][0] + 1} has fewer cells than the others"
    if not width:
        problem = "it has no cells"
    return Grid(tuple(places), width, len(rows), holes, problem)


def _is_square(rows: Sequence[Node]) -> bool:
    """Whether all rows have as many cells, and no cell spans more than its own place, as in most tables."""
    width = len(rows[0].content) if rows else 0
    spend(len(rows) * width)
    return 0 < width <= WIDEST and all(
        len(row.content) == width and all(cell.attrs["colspan"] == cell.attrs["rowspan"] == 1 for cell in row.content)
        for row in rows
    )


def squared(rows: Sequence[Node]) -> list[Node]:
    """The same rows with every place of the grid belonging to just one cell: spans are cut where they overlap or
    reach too far, and empty cells fill what is missing. The words all stay."""
    if _is_square(rows):
        return list(rows)
    taken: set[tuple[int, int]] = set()
    fitted: list[list[tuple[int, Node]]] = [[] for _ in rows]
    over: dict[tuple[int, int], list[Node]] = {}
    latest: tuple[int, int] | None = None
    for row, node in enumerate(rows):
        column = 0
        for cell in node.content:
            spend()
            while (row, column) in taken:
                column += 1
            if column >= WIDEST and latest is not None:
                # There is no place left in this row: its words go to the cell with the last one, perhaps from above.
                over.setdefault(latest, []).extend(cell.content)
                continue
            if cell.attrs["colspan"] == cell.attrs["rowspan"] == 1:
                taken.add((row, column))
                latest = row, len(fitted[row])
                fitted[row].append((column, cell))
                column += 1
                continue
            across = 1
            while across < min(cell.attrs["colspan"], WIDEST - column) and (row, column + across) not in taken:
                across += 1
            down = min(cell.attrs["rowspan"], len(rows) - row)
            taken.update((row + y, column + x) for y in range(down) for x in range(across))
            latest = row, len(fitted[row])
            fitted[row].append((column, cell.with_attrs(colspan=across, rowspan=down)))
            column += across
    for (row, place), words in over.items():
        column, cell = fitted[row][place]
        fitted[row][place] = column, cell.with_content((*cell.content, *words))
    width = max((column + 1 for _, column in taken), default=0)
    empty = make("table_cell", [make("paragraph")])
    for row, cells in enumerate(fitted):
        cells += [(column, empty) for column in range(width) if (row, column) not in taken]
        cells.sort(key=lambda each: each[0])
    return [node.with_content(cell for _, cell in cells) for node, cells in zip(rows, fitted, strict=True)]
