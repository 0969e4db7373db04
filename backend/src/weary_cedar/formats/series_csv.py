"""The series of a run as CSV files."""

import csv
from pathlib import Path

from weary_cedar.core.outage import RunResult
from weary_cedar.formats.cells import as_text


def write_series(result: RunResult, folder: Path) -> list[Path]:
    """Write `legs.csv`, `loads.csv` and `events.csv`; every row of a series holds until the next.

    Args:
        result: of a run.
        folder: made if it is missing.

    Returns:
        The files written.
    """
    folder.mkdir(parents=True, exist_ok=True)
    columns = result.series.model_dump()
    legs = _write(folder / "legs.csv", list(columns), zip(*columns.values(), strict=True))
    rows = (
        (key, t, watts)
        for key, series in result.load_series.items()
        for t, watts in zip(series.t_s, series.watts, strict=True)
    )
    loads = _write(folder / "loads.csv", ["load_id", "t_s", "watts"], rows)
    noted = (
        (e.t_s, e.at.isoformat(), e.kind, as_text(e.what), as_text(e.why), as_text(e.remedy))
        for e in result.events
    )
    events = _write(folder / "events.csv", ["t_s", "at", "kind", "what", "why", "remedy"], noted)
    return [legs, loads, events]


def _write(file: Path, header: list[str], rows: object) -> Path:
    with file.open("w", newline="", encoding="utf-8") as out:
        writer = csv.writer(out)
        writer.writerow(header)
        writer.writerows(rows)  # type: ignore[arg-type]
    return file
