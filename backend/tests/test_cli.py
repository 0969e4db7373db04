"""The command line: the same answers without a browser."""

import csv
import json
import subprocess
import sys
from pathlib import Path

import pytest
from builders import one_load, steady
from command_line import cedar
from serving import OwnServer

from weary_cedar.core.decide.how_sure import judged
from weary_cedar.demo import demo_plan


def test_run_in_words_and_exit_codes(tmp_path: Path) -> None:
    file = tmp_path / "plan.json"
    file.write_text(json.dumps(one_load(steady(50))))
    lasts = cedar("run", str(file))
    assert (lasts.returncode, lasts.stderr) == (0, "")
    assert lasts.stdout.startswith("Lasts: the whole 48 h, 53 % left at the end\n")
    assert "Ledger closes" in lasts.stdout
    does_not = cedar("run", "-", given=json.dumps(one_load(steady(500))))
    assert does_not.returncode == 1
    assert does_not.stdout.startswith(
        "Does not last: 10 h of 48 h, until Mon 12 Jan 10:14: only loses power, and everything is dark then"
    )


def test_whole_result_and_series(tmp_path: Path) -> None:
    given = demo_plan().model_dump_json(exclude_none=True)
    answer = cedar("run", "-", "--json", "--csv", str(tmp_path / "out"), given=given)
    expected = judged(demo_plan())
    assert json.loads(answer.stdout) == json.loads(expected.model_dump_json())
    with (tmp_path / "out" / "legs.csv").open() as file:
        rows = list(csv.DictReader(file))
    assert len(rows) == len(expected.series.t_s)
    assert float(rows[-1]["stored_wh"]) == expected.series.stored_wh[-1]
    devices = {"battery-station.csv", "station-station.csv", "generator-inverter-2k.csv", "sun-ground.csv"}
    devices |= {"lead-inlet.csv", "charging-from-generator.csv", "compartment-freezer-harvest.csv"}
    files = {path.name for path in (tmp_path / "out").iterdir()}
    assert files == {"legs.csv", "loads.csv", "events.csv", *devices}


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("not json", ["This is not JSON"]),
        ('{"schema_version": 9}', ["/schema_version", "9", "version 2"]),
        ('{"schema_version": 1, "name": 5}', ["/name", "5", "should be text", "/outage"]),
        (
            json.dumps(one_load(steady(-1))),
            ["/loads/only/behaviour/watts", "-1", "should be from 0 to 100,000"],
        ),
        (json.dumps({**one_load(steady(1)), "feeds": {}}), ["Cannot judge yet", "no feed"]),
    ],
)
def test_bad_input_names_field_value_and_right(text: str, told: list[str]) -> None:
    refused = cedar("run", "-", given=text)
    assert refused.returncode == 2
    for words in told:
        assert words in refused.stderr


def test_check_and_sum(tmp_path: Path) -> None:
    document = demo_plan().model_dump(mode="json", exclude_none=True)
    file = tmp_path / "plan.json"
    file.write_text(json.dumps(document))
    fine = cedar("check", str(file))
    assert fine.returncode == 0
    assert "NOTE  A short shuts the whole station off" in fine.stdout
    document["feeds"]["inlet"]["inlet"] = "6-50"
    file.write_text(json.dumps(document))
    run = cedar("run", str(file))
    assert "STOP, do not energise: A joint without a neutral" in run.stderr
    bad = cedar("check", str(file), "--json")
    assert bad.returncode == 1
    assert json.loads(bad.stdout)[0]["check_id"] == "neutral-open"
    worked = cedar("sum", "cord", "length=25ft", "awg=14", "amps=2.5")
    assert (worked.returncode, worked.stdout.splitlines()[-1]) == (0, "loop that a meter reads: 0.1288 Ω")
    of_plan = cedar("sum", "runtime", "load=200W", "--plan", str(file), "--about", "station")
    assert of_plan.stdout.startswith("lasts: ")
    assert float(of_plan.stdout.split()[1]) == pytest.approx(11_600 * 0.97 / (200 / 0.92 + 55), abs=0.01)
    nobody = cedar("sum", "runtime", "--plan", str(file), "--about", "gone")
    assert nobody.returncode == 2
    assert "one of station" in nobody.stderr
    assert "79,993 Wh" in cedar("sum", "vehicle", "tank=12gal", "per_l=1.761").stdout
    wrong = cedar("sum", "cord", "length=7bananas")
    assert wrong.returncode == 2
    assert "/length: got 7bananas" in wrong.stderr


def test_arrangements_are_told_and_their_acts_replayed(tmp_path: Path) -> None:
    document = demo_plan().model_dump(mode="json", exclude_none=True)
    file, steps = tmp_path / "plan.json", tmp_path / "steps.json"
    file.write_text(json.dumps(document))
    sound = cedar("arrangements", str(file))
    assert sound.returncode == 0
    assert sound.stdout.startswith("No arrangement of 10 handles (2 looked at) lets two sources meet")
    assert sound.stdout.strip() in cedar("check", str(file)).stdout
    document["feeds"]["inlet"]["kind"] = "no_transfer"
    file.write_text(json.dumps(document))
    found = cedar("arrangements", str(file), "--json")
    assert found.returncode == 1
    danger = json.loads(found.stdout)["dangers"][0]
    acts = [{"what": act["what"], "to": act["to"]} for act in danger["acts"]]
    steps.write_text(json.dumps({"acts": acts}))
    replayed = json.loads(cedar("replay", str(file), str(steps), "--json").stdout)
    assert (replayed["step"], replayed["code"]) == (len(acts), danger["code"])
    assert cedar("arrangements", "-", given="{").returncode == 2


def test_may_it_be_started_at_a_moment(tmp_path: Path) -> None:
    file = tmp_path / "plan.json"
    file.write_text(json.dumps(demo_plan().model_dump(mode="json", exclude_none=True)))
    yes = cedar("start", str(file), "--at", "5 h", "--watts", "1.1 kW", "--for", "10 min")
    assert yes.returncode == 0
    assert yes.stdout.startswith("Yes: the leg of ")
    no = cedar("start", str(file), "--at", "5h", "--watts", "4kW", "--json")
    assert no.returncode == 1
    assert json.loads(no.stdout)["answer"] == "no"
    for wrong, field in (("--load", "/load_id"), ("--watts", "--watts")):
        refused = cedar("start", str(file), "--at", "5h", wrong, "nothing")
        assert refused.returncode == 2
        assert f"{field}: got " in refused.stderr


def test_clauses_are_listed_in_the_edition_of_the_plan(tmp_path: Path) -> None:
    file = tmp_path / "plan.json"
    document = demo_plan().model_dump(mode="json", exclude_none=True)
    document["site"] |= {"code": "us_2020", "amendments": {"wet-no-gfci": "Sheds, too."}}
    file.write_text(json.dumps(document))
    told = cedar("clauses", str(file)).stdout
    assert told.startswith("62 clauses; the house goes by NFPA 70 of 2020\n")
    assert "NFPA 70 (2020) 210.8, from memory\n    about 80 % sure; basements count" in told
    assert "    local rule: Sheds, too." in told
    assert len(json.loads(cedar("clauses", str(file), "--json").stdout)) == 62


def test_missing_file_and_schema(tmp_path: Path) -> None:
    missing = cedar("run", str(tmp_path / "none.json"))
    assert missing.returncode == 2
    assert "none.json" in missing.stderr
    assert json.loads(cedar("schema").stdout)["$id"] == "urn:weary-cedar:plan:2"


def test_port_in_use_and_folder_in_use(tmp_path: Path, own_server: OwnServer) -> None:
    address, data = own_server.address, own_server.data
    taken = cedar("serve", "--port", address.rsplit(":", 1)[1], "--data", str(tmp_path / "other"))
    assert taken.returncode == 2
    assert "a port that is free" in taken.stderr
    second = cedar("serve", "--port", "0", "--data", str(data))
    assert second.returncode == 2
    assert "another server uses it" in second.stderr


ESCAPES = "fridge\x1b[2J\x9b31m\u202e\nLasts: for ever"


def test_names_never_steer_the_terminal(tmp_path: Path) -> None:
    document = json.loads(demo_plan().model_dump_json(exclude_none=True))
    document["loads"]["fridge"]["name"] = ESCAPES
    document["circuits"]["fridge"]["label"] = ESCAPES
    document["feeds"]["inlet"]["kind"] = "no_transfer"
    plan = tmp_path / "plan.json"
    plan.write_text(json.dumps(document))
    for command in (["run", str(plan)], ["check", str(plan)], ["run", str(plan), "--json"]):
        done = cedar(*command)
        told = done.stdout + done.stderr
        assert not set(told) & set("\x1b\x9b\u202e"), command
        assert not [line for line in told.splitlines() if line.startswith("Lasts")], command
    document["loads"]["fridge"]["behaviour"]["watts\x1b[0m"] = 1
    plan.write_text(json.dumps(document))
    assert "\\x1b[0m" in cedar("run", str(plan)).stderr


def test_a_crash_is_70_with_one_line_and_a_log(tmp_path: Path) -> None:
    plan = tmp_path / "plan.json"
    plan.write_text(demo_plan().model_dump_json())
    script = (
        "import sys; from weary_cedar import cli\n"
        "def fails(*_): raise ZeroDivisionError('by nothing')\n"
        f"cli.plans.judged = fails; sys.argv = ['weary-cedar', 'run', {str(plan)!r}]; cli.main()"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=False)
    assert done.returncode == 70
    (line,) = done.stderr.splitlines()
    assert "ZeroDivisionError: by nothing" in line
    log = Path(line.rpartition("the log is ")[2])
    assert "Traceback" in log.read_text()
    log.unlink()


def test_what_is_too_much_to_run_is_bad_input(tmp_path: Path) -> None:
    document = json.loads(demo_plan().model_dump_json(exclude_none=True))
    document["loads"]["fridge"]["behaviour"] = {"kind": "cycling", "on_w": 9, "duty": 0.5, "period_s": 10}
    document["stations"]["station"]["cell_wh"] = 900_000
    document["outage"]["length_s"] = 31 * 86_400
    plan = tmp_path / "plan.json"
    plan.write_text(json.dumps(document))
    done = cedar("run", str(plan))
    assert done.returncode == 2
    assert "changes more than 150,000 times" in done.stderr
    assert "/loads/fridge/behaviour" in done.stderr


def test_cells_of_the_series_are_text(tmp_path: Path) -> None:
    document = json.loads(demo_plan().model_dump_json(exclude_none=True))
    document["loads"]["fridge"]["name"] = "=cmd"
    plan = tmp_path / "plan.json"
    plan.write_text(json.dumps(document))
    cedar("run", str(plan), "--csv", str(tmp_path / "out"))
    rows = list(csv.reader((tmp_path / "out" / "events.csv").open(encoding="utf-8")))
    assert not [cell for row in rows for cell in row[2:] if cell.startswith(("=", "+", "-", "@"))]


def test_a_check_is_explained_without_a_plan() -> None:
    told = cedar("check", "--explain", "batt-cold")
    assert told.returncode == 0
    assert "Lithium cells that may be charged below" in told.stdout
    assert "Needs to know: how cold it gets where the station stands" in told.stdout
    wrong = cedar("check", "--explain", "batt")
    assert wrong.returncode == 2
    assert "batt-cold" in wrong.stderr
    assert cedar("check").returncode == 2


def test_breakers_as_a_table_out_read_and_laid_over(tmp_path: Path) -> None:
    plan = demo_plan().model_dump_json(exclude_none=True)
    told = cedar("breakers", "-", given=plan).stdout
    assert told.startswith("id,panel,spaces,breaker_a,label,mark")
    file, lines, book = tmp_path / "plan.json", tmp_path / "lines.txt", tmp_path / "table.xlsx"
    file.write_text(plan)
    assert cedar("breakers", str(file), "--out", str(book)).returncode == 0
    assert book.read_bytes().startswith(b"PK")
    same = cedar("breakers", str(file), str(book), "--read")
    assert (same.returncode, same.stdout) == (0, ""), "what goes out and comes back changes nothing"
    lines.write_text("26 28 garage feeder 60A feeds garage sub-panel\n30 sump pump 15A keep\nnonsense\n")
    wrong = cedar("breakers", str(file), str(lines), "--read")
    assert wrong.returncode == 2
    assert "nonsense, spaces: got nothing; one space such as 5" in wrong.stdout
    assert "2 breakers added: garage feeder, sump pump" in wrong.stdout
    view = json.loads(cedar("breakers", str(file), str(lines), "--read", "--json").stdout)
    assert (view["faults"], set(view)) == (1, {"columns", "rows", "changes", "notes", "faults", "loose"})
    refused = cedar("breakers", str(file), str(lines))
    assert (refused.returncode, "/row/3/spaces" in refused.stderr) == (2, True)
    lines.write_text("30 sump pump 15A\n")
    after = json.loads(cedar("breakers", str(file), str(lines), "--usual").stdout)
    assert after["loads"]["sump-pump"]["circuit_id"] == "sump-pump"
    assert after["circuits"]["sump-pump"]["mark"] == "keep"


def test_a_whole_outage_is_practised_from_a_file(tmp_path: Path) -> None:
    plan, steps = tmp_path / "plan.json", tmp_path / "steps.json"
    plan.write_text(demo_plan("hut").model_dump_json(exclude_none=True))
    first = cedar("drill", str(plan), "--whole", "--seed", "3")
    assert first.returncode == 0
    assert "go-on: Go on as the plan says" in first.stdout
    assert "it foretells none" in first.stdout
    chosen: list[str] = []
    while True:
        steps.write_text(json.dumps({"seed": 3, "chosen": chosen}))
        answer = cedar("drill", str(plan), str(steps), "--whole", "--json")
        told = json.loads(answer.stdout)
        if "stop" not in told:
            break
        chosen.append(told["stop"]["choices"][0]["key"])
    assert (len(told["choices"]), answer.returncode) == (len(chosen), 0 if told["passed"] else 1)
    wrong = cedar("drill", str(plan), str(steps), "--whole", "--seed", "-1")
    assert wrong.returncode == 2
