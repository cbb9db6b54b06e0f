"""The command: what it prints, its exit codes, and that bad input stores and writes nothing."""

import csv
import io
import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from typer.testing import CliRunner

from mitten.cli import app
from mitten.core.catalogue import Catalogue
from mitten.core.design import BadDesignError, Design, write_design
from mitten.core.judge import Condition, solve_condition
from mitten.core.physics.balance.steady import NotSettledError
from mitten.core.physics.reading.climate import Climate
from mitten.demo import demo_designs
from mitten.reports import csv_of, read_point
from tests.designs import Data, box_data, ledge_data, read

RUN = CliRunner()


def written(folder: Path, design: Data, name: str = "my.mitten.json") -> str:
    path = folder / name
    path.write_text(json.dumps(design), encoding="utf-8")
    return str(path)


def solved(folder: Path, design: Data, *options: str) -> list[dict[str, Any]]:
    result = RUN.invoke(app, ["solve", written(folder, design), "--json", *options])
    assert result.exit_code == 0, result.stderr
    return [json.loads(line) for line in result.stdout.splitlines()]


def test_schema_prints_json_schema() -> None:
    schema = json.loads(RUN.invoke(app, ["schema"]).stdout)
    assert schema["title"] == "mitten-design/1"
    assert schema["additionalProperties"] is False


def test_solve_prints_one_object_for_each_seasonal_condition(tmp_path: Path) -> None:
    answers = solved(tmp_path, ledge_data())
    assert [answer["condition"] for answer in answers] == ["winter-day", "winter-night", "summer-day", "summer-night"]
    day, night = answers[0], answers[1]
    assert set(day["sites"]["Ledge"]) >= {"surface_c", "air_c", "irradiance_w_m2"}
    assert set(day["air"]) >= {"warm_c", "middle_c", "cool_c", "top_c", "mean_c", "rh_warm", "rh_cool"}
    assert day["heaters"]["Lamp"]["duty"] == 1.0
    assert day["heaters"]["Lamp"]["watts"] == 75.0
    assert night["heaters"]["Lamp"]["watts"] == 0.0
    assert abs(day["energy"]["residual_w"]) < 0.075


def test_solve_answers_exact_points(tmp_path: Path) -> None:
    points = ["0.94,0.3,0.185,surface", "0.1,0.3,0.1,air", "0.94,0.3,0.02,inside", "1.2,0.3,0.3,surface"]
    options = [word for point in points for word in ("--at", point)]
    answer = solved(tmp_path, ledge_data(), "--condition", "room=21,day", *options)[0]
    ledge, air, inside, wall = (point["c"] for point in answer["points"])
    assert ledge == pytest.approx(answer["sites"]["Ledge"]["surface_c"], abs=0.5)
    assert 21 < air < ledge
    assert 21 < inside < answer["floor"]["max_c"]
    assert 21 < wall < ledge


def test_points_carry_intervals_and_lie_within_slabs_too(tmp_path: Path) -> None:
    points = ["0.94,0.3,0.1725,inside", "0.1,0.3,0.1,air"]
    options = [word for point in points for word in ("--at", point)]
    answer = solved(tmp_path, ledge_data(), "--condition", "room=21,day", *options)[0]
    for point in answer["points"]:
        low, high = point["interval"]
        assert low < point["c"] < high
    slab, air = (point["c"] for point in answer["points"])
    assert air + 5 < slab < answer["sites"]["Ledge"]["surface_c"] + 0.5


def test_air_within_a_slab_is_refused() -> None:
    with pytest.raises(BadDesignError, match="in 'Ledge', where there is no air"):
        read_point(read(ledge_data()), "0.94,0.3,0.17,air")


def test_where_one_condition_has_no_answer_the_others_are_printed(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def solve(design: Design, catalogue: Catalogue, condition: Condition) -> Climate:
        if condition.name == "winter-night":
            raise NotSettledError("No steady state was found.")
        return solve_condition(design, catalogue, condition)

    monkeypatch.setattr("mitten.cli.solve_condition", solve)
    result = RUN.invoke(app, ["solve", written(tmp_path, box_data()), "--json"])
    assert result.exit_code == 2
    assert [json.loads(line)["condition"] for line in result.stdout.splitlines()] == [
        "winter-day",
        "summer-day",
        "summer-night",
    ]
    assert result.stderr.splitlines() == ["winter-night: No steady state was found."]


def test_solve_without_json_prints_lines_to_read(tmp_path: Path) -> None:
    result = RUN.invoke(app, ["solve", written(tmp_path, box_data()), "--condition", "winter-day"])
    assert "air.warm_c" in result.stdout
    assert "energy.residual_w" in result.stdout


@pytest.mark.slow
@pytest.mark.parametrize(("index", "code"), [(0, 0), (1, 1), (2, 1)])
def test_assess_exits_by_the_verdict(tmp_path: Path, index: int, code: int) -> None:
    path = tmp_path / "demo.json"
    path.write_text(write_design(demo_designs()[index]), encoding="utf-8")
    result = RUN.invoke(app, ["assess", str(path)])
    assert result.exit_code == code
    report = json.loads(RUN.invoke(app, ["assess", str(path), "--json"]).stdout)
    assert report["passes"] is (code == 0)
    assert report["headline"] in result.stdout
    assert [one["condition"] for one in report["conditions"]] == [
        "winter-day", "winter-night", "summer-day", "summer-night", "usual-day", "usual-night"
    ]  # fmt: skip
    assert all(
        one["bearable"][0] <= one["wanted"][0] <= one["wanted"][1] <= one["bearable"][1] for one in report["targets"]
    )


@pytest.mark.parametrize(
    "design",
    [
        {**ledge_data(), "colour": 1},
        ledge_data(x_m=3.0),
        ledge_data(watts=-1),
        ledge_data(watts=float("nan")),
        {**ledge_data(), "enclosure": {"length_m": 1.2, "depth_m": 0.6, "height_m": 4}},
    ],
)
@pytest.mark.parametrize("command", ["solve", "assess"])
def test_a_bad_design_is_one_clear_line_and_exit_code_2(tmp_path: Path, design: Data, command: str) -> None:
    result = RUN.invoke(app, [command, written(tmp_path, design)])
    assert result.exit_code == 2
    assert result.stdout == ""
    assert len(result.stderr.splitlines()) == 1
    assert result.stderr.startswith("my.mitten.json: ")


@pytest.mark.parametrize("content", [b"", b"not json", b"\x00" * 100, b" " * 50_000_000])
def test_a_file_that_is_no_design_is_exit_code_2(tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "x.json"
    path.write_bytes(content)
    result = RUN.invoke(app, ["assess", str(path)])
    assert (result.exit_code, len(result.stderr.splitlines())) == (2, 1)


def test_a_file_that_is_not_there_and_wrong_options_are_exit_code_2(tmp_path: Path) -> None:
    good = written(tmp_path, box_data())
    for words in (
        ["assess", str(tmp_path / "none.json")],
        ["solve", good, "--condition", "spring-day"],
        ["solve", good, "--at", "0.5,0.3,air"],
        ["solve", good, "--at", "5,0.3,0.2,air"],
        ["solve", good, "--at", "nan,0.3,0.2,air"],
    ):
        result = RUN.invoke(app, words)
        assert result.exit_code == 2, words
        assert len(result.stderr.splitlines()) == 1


def test_points_within_the_wrong_stuff_are_refused() -> None:
    design = read(box_data())
    for text in ("0.5,0.3,0.2,inside", "0.5,0.3,0.01,air"):
        with pytest.raises(Exception, match="ground"):
            read_point(design, text)


@pytest.mark.slow
def test_the_installed_command_runs() -> None:
    done = subprocess.run([sys.executable, "-m", "mitten", "--help"], capture_output=True, text=True, check=True)
    for command in ("demo", "serve", "schema", "solve", "assess"):
        assert command in done.stdout


@pytest.mark.slow
def test_recommend_prints_plans_that_are_whole_designs(tmp_path: Path) -> None:
    path = written(tmp_path, json.loads(write_design(demo_designs()[3])))
    result = RUN.invoke(app, ["recommend", path, "--json", "--approach", "ground", "--limit", "1"])
    assert result.exit_code == 0, result.stderr
    (plan,) = json.loads(result.stdout)
    assert plan["works"]
    assert plan["approach"] == "ground"
    again = RUN.invoke(app, ["solve", written(tmp_path, plan["design"], "plan.mitten.json"), "--json"])
    assert again.exit_code == 0


@pytest.mark.slow
def test_recommend_says_what_stands_in_the_way(tmp_path: Path) -> None:
    path = written(tmp_path, json.loads(write_design(demo_designs()[2])))
    result = RUN.invoke(app, ["recommend", path, "--approach", "ground"])
    assert result.exit_code == 1
    assert "No plan works." in result.stdout
    assert "the room itself has to be cooler then" in result.stdout


def simulated(folder: Path, design: Data, *options: str) -> Any:
    return RUN.invoke(app, ["simulate", written(folder, design), *options])


def test_simulate_prints_a_row_a_minute(tmp_path: Path) -> None:
    result = simulated(tmp_path, ledge_data(), "--condition", "room=20,day", "--hours", "2", "--from", "room", "--csv")
    rows = list(csv.DictReader(io.StringIO(result.stdout)))
    assert result.exit_code == 0, result.stderr
    assert [row["minute"] for row in rows] == [str(minute) for minute in range(121)]
    assert set(rows[0]) >= {
        "room_c", "warm_c", "middle_c", "cool_c", "top_c", "floor_max_c", "floor_min_c", "base_max_c", "rh_mean",
        "power_w", "Ledge.surface_c", "Ledge.air_c", "Lamp.watts",
    }  # fmt: skip
    assert float(rows[0]["Ledge.surface_c"]) == pytest.approx(20.0, abs=0.01)
    assert float(rows[120]["Ledge.surface_c"]) > 33.0
    assert all(float(row["power_w"]) == 75.0 for row in rows)


def test_simulate_sums_up_what_happened(tmp_path: Path) -> None:
    options = ("--condition", "winter-day", "--hours", "3", "--fault", "power-cut")
    found = json.loads(simulated(tmp_path, ledge_data(), *options).stdout)
    assert found["minutes"] == 180
    assert found["figures"]["Ledge.surface_c"]["highest_at_min"] == 0.0
    assert found["energy_kwh"] == 0.0
    assert found["minutes_to_danger"].keys() == {"body", "contact", "air"}
    assert (found["minutes_to_danger"]["contact"], found["minutes_to_danger"]["air"]) == (None, None)
    warm = found["figures"]["warm_c"]
    assert warm["last_c"] < warm["highest_c"] - 3.0


@pytest.mark.slow
def test_simulate_goes_through_the_days_of_a_season(tmp_path: Path) -> None:
    found = json.loads(simulated(tmp_path, ledge_data(), "--condition", "winter", "--hours", "24").stdout)
    assert found["energy_kwh"] == pytest.approx(0.075 * 12, rel=1e-3)


@pytest.mark.parametrize(
    ("options", "words"),
    [
        (("--condition", "spring"), "'spring' is no condition"),
        (("--condition", "winter-day", "--hours", "-3"), "-3 hours are not between 0 and 336"),
        (("--condition", "winter-day", "--hours", "10000"), "10000 hours are not between"),
        (("--condition", "winter-day", "--fault", "flood"), "'flood' is no failure"),
        (("--condition", "winter-day", "--fault", "dead:Nobody"), "is called 'Nobody'"),
        (("--condition", "winter-day", "--fault", "stuck-on"), "needs a thermostat"),
        (("--condition", "winter-day", "--fault", "power-cut:Lamp"), "leave out 'Lamp'"),
        (("--condition", "winter-day", "--fault", "power-cut", "--fault", "heat-wave"), "one failure at a time"),
    ],
)
def test_simulate_refuses_what_cannot_be_gone_through_in_one_line(
    tmp_path: Path, options: tuple[str, ...], words: str
) -> None:
    result = simulated(tmp_path, ledge_data(), *options)
    assert result.exit_code == 2
    assert words in result.stderr
    assert len(result.stderr.strip().splitlines()) == 1
    assert result.stdout == ""


@pytest.mark.slow
@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("serve", "--port", "99999"), "65535"), (("demo", "--port", "-1"), "--port"), (("serve", "--port", "x"), "--port"),
        (("frob",), "frob"), (("solve",), "FILE"), (("solve", "a", "--wrong"), "--wrong"),
    ],
)  # fmt: skip
def test_what_is_wrong_with_a_call_is_one_line(arguments: tuple[str, ...], said: str) -> None:
    done = subprocess.run([sys.executable, "-m", "mitten", *arguments], capture_output=True, text=True)
    assert (done.returncode, done.stderr.count("\n"), done.stdout) == (2, 1, "")
    assert said in done.stderr


@pytest.mark.slow
def test_a_full_disk_is_one_line() -> None:
    with Path("/dev/full").open("w") as full:
        done = subprocess.run(
            [sys.executable, "-m", "mitten", "schema"], stdout=full, stderr=subprocess.PIPE, text=True
        )
    assert (done.returncode, done.stderr.count("\n")) == (2, 1)
    assert "could not be written" in done.stderr


def test_no_name_begins_a_formula_in_any_csv() -> None:
    """Of names in the first row, and of cells."""
    names = ["=1+1", "+x", "-y", "@z", "\tq", "＝w", " =v"]
    text = csv_of([[f"{name}.surface_c" for name in names], ["-1.5", -2.0, "=A1", "1e-3"]])
    first, second = csv.reader(io.StringIO(text))
    assert [cell[0] for cell in first] == ["'"] * len(names)
    assert second == ["-1.5", "-2.0", "'=A1", "1e-3"]
