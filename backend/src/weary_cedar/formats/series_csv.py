"""The series of a run as CSV files: in a folder, or together in one archive."""

import csv
import io
import zipfile
from collections.abc import Iterable, Iterator, Sequence
from pathlib import Path

from pydantic import BaseModel

from weary_cedar.core.outage import RunResult
from weary_cedar.formats.cells import as_text

#: A moment for the files of an archive: the same run makes the same bytes.
STAMP = (1980, 1, 1, 0, 0, 0)


def write_series(result: RunResult, folder: Path) -> list[Path]:
    """Write `legs.csv`, `loads.csv`, `events.csv` and one file a device; a row holds until the next.

    Args:
        result: of a run.
        folder: made if it is missing.

    Returns:
        The files written.
    """
    folder.mkdir(parents=True, exist_ok=True)
    files = []
    for name, text in _files(result):
        file = folder / name
        with file.open("w", newline="", encoding="utf-8") as out:
            out.write(text)
        files.append(file)
    return files


def zipped_series(result: RunResult) -> bytes:
    """The same files in one ZIP archive."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, text in _files(result):
            info = zipfile.ZipInfo(name, STAMP)
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, text)
    return out.getvalue()


def _files(result: RunResult) -> Iterator[tuple[str, str]]:
    columns = result.series.model_dump()
    yield "legs.csv", _text(list(columns), zip(*columns.values(), strict=True))
    rows = (
        (key, t, watts)
        for key, series in result.load_series.items()
        for t, watts in zip(series.t_s, series.watts, strict=True)
    )
    yield "loads.csv", _text(["load_id", "t_s", "watts"], rows)
    noted = (
        (e.t_s, e.at.isoformat(), e.kind, as_text(e.what), as_text(e.why), as_text(e.remedy))
        for e in result.events
    )
    yield "events.csv", _text(["t_s", "at", "kind", "what", "why", "remedy"], noted)
    yield from _devices(result)


def _devices(result: RunResult) -> Iterator[tuple[str, str]]:
    """A file a device: `battery-ID.csv`, `station-ID.csv`, `sun-ID.csv`, `lead-ID.csv` and so on."""
    for key, battery in result.batteries.items():
        columns = ("t_s", "stored_wh", "draw_w", "offered_w", "shown_h")
        yield f"battery-{key}.csv", _table(battery, columns)
        for part, reading in battery.readings.items():
            yield f"reading-{key}-{part}.csv", _table(reading, ("t_s", "percent"))
    for key, source in result.sources.items():
        name = f"{source.kind}-{key.rpartition('/')[2]}.csv"
        yield name, _table(source, ("t_s", "a_w", "b_w", "a_va", "b_va"))
    for key, sun in result.suns.items():
        yield f"sun-{key}.csv", _table(sun, ("t_s", "offered_w", "taken_w"))
    for key, way in result.ways.items():
        yield f"lead-{key}.csv", _table(way, ("t_s", "a_va", "b_va"))
    for room, shares in (("charging", result.leads), ("external", result.externals)):
        for key, lead in shares.items():
            yield f"{room}-{key}.csv", _table(lead, ("t_s", "watts"))
    for key, cold in result.compartments.items():
        yield f"compartment-{key.replace('/', '-')}.csv", _table(cold, ("t_s", "contents_c", "air_c"))


def _table(part: BaseModel, columns: Sequence[str]) -> str:
    return _text(columns, zip(*(getattr(part, name) for name in columns), strict=True))


def _text(header: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(header)
    writer.writerows(rows)
    return out.getvalue()
