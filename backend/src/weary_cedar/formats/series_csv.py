"""The series of a run as CSV files."""

import csv
from pathlib import Path

from pydantic import BaseModel

from weary_cedar.core.outage import RunResult
from weary_cedar.formats.cells import as_text


def write_series(result: RunResult, folder: Path) -> list[Path]:
    """Write `legs.csv`, `loads.csv`, `events.csv` and one file a device; a row holds until the next.

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
    return [legs, loads, events, *_devices(result, folder)]


def _devices(result: RunResult, folder: Path) -> list[Path]:
    """A file a device: `battery-ID.csv`, `station-ID.csv`, `sun-ID.csv`, `lead-ID.csv` and so on."""
    files = []
    for key, battery in result.batteries.items():
        columns = ("t_s", "stored_wh", "draw_w", "offered_w", "shown_h")
        files.append(_table(folder / f"battery-{key}.csv", battery, columns))
        for part, reading in battery.readings.items():
            files.append(_table(folder / f"reading-{key}-{part}.csv", reading, ("t_s", "percent")))
    for key, source in result.sources.items():
        file = folder / f"{source.kind}-{key.rpartition('/')[2]}.csv"
        files.append(_table(file, source, ("t_s", "a_w", "b_w", "a_va", "b_va")))
    for key, sun in result.suns.items():
        files.append(_table(folder / f"sun-{key}.csv", sun, ("t_s", "offered_w", "taken_w")))
    for key, way in result.ways.items():
        files.append(_table(folder / f"lead-{key}.csv", way, ("t_s", "a_va", "b_va")))
    for room, shares in (("charging", result.leads), ("external", result.externals)):
        for key, lead in shares.items():
            files.append(_table(folder / f"{room}-{key}.csv", lead, ("t_s", "watts")))
    for key, part_cold in result.compartments.items():
        name = key.replace("/", "-")
        files.append(_table(folder / f"compartment-{name}.csv", part_cold, ("t_s", "contents_c", "air_c")))
    return files


def _table(file: Path, part: BaseModel, columns: tuple[str, ...]) -> Path:
    return _write(file, list(columns), zip(*(getattr(part, name) for name in columns), strict=True))


def _write(file: Path, header: list[str], rows: object) -> Path:
    with file.open("w", newline="", encoding="utf-8") as out:
        writer = csv.writer(out)
        writer.writerow(header)
        writer.writerows(rows)  # type: ignore[arg-type]
    return file
