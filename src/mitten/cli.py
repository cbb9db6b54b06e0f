"""The ``mitten`` command: the same use cases as the pages, from a shell.

Exit codes: 0 done; 1 the design was read but misses a target or a safety rule; 2 bad input, one line a fault on
standard error and nothing written.
"""

import json
import os
import sys
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path
from typing import Annotated, Any, Literal, NoReturn

import typer

from mitten import __version__
from mitten.core.catalogue import Catalogue, file_schema, read_carrying, shipped_catalogue
from mitten.core.design import MAX_FILE_BYTES, Approach, BadDesignError, Design, Fault, MittenError
from mitten.core.design.amounts import celsius, plain
from mitten.core.judge import (
    SEASONAL,
    Assessment,
    Condition,
    TargetVerdict,
    assess,
    figure_words,
    of_condition,
    of_season,
    read_condition,
    read_failure,
    run,
    solve_condition,
    wants_words,
)
from mitten.core.judge.days import SEASONS, minutes_of
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.threads import use_one_thread
from mitten.core.physics.uncertainty import intervals
from mitten.core.plan.search import (
    Brief,
    Near,
    Plan,
    Progress,
    asked_of_the_box,
    chance_words,
    explanation,
    find_plans,
    nearest,
    night_words,
    obstacles,
    source_words,
)
from mitten.reports import (
    ReportPoint,
    answer_point,
    assessment_report,
    climate_report,
    course_csv,
    course_report,
    plan_report,
    read_point,
)

BAD_INPUT = 2
MISSED = 1
USAGE_ERROR: type[Exception] = typer.BadParameter.mro()[1]
"""What is wrong with how a command is called: an option, an argument, a command that does not exist."""

DEFAULT_PORT = 8420

app = typer.Typer(no_args_is_help=True, add_completion=False, pretty_exceptions_enable=False, help=__doc__)


def _print(text: str, err: bool = False, end: str = "\n") -> None:
    """A line or more, whose amounts are in °C and cm."""
    typer.echo(plain(text) + end, err=err, nl=False)


def _say_version(wanted: bool) -> None:
    if wanted:
        _print(f"mitten {__version__}")
        raise typer.Exit


DesignFile = Annotated[Path, typer.Argument(help="A design file, NAME.mitten.json.", metavar="FILE")]
LogLevel = Annotated[
    Literal["debug", "info", "warning", "error"], typer.Option(help="How much is written to standard error.")
]
AsJson = Annotated[bool, typer.Option("--json", help="Print JSON instead of lines.")]


@app.callback()
def options(
    version: Annotated[bool, typer.Option("--version", is_eager=True, callback=_say_version, help="Print it.")] = False,
) -> None:
    """What goes with every command."""


@app.command()
def demo(
    port: Annotated[int, typer.Option(min=0, max=65535, help="0 takes a free port.")] = 0,
    log_level: LogLevel = "warning",
) -> None:
    """Start with the demo data, on a free local port, and print the address."""
    from mitten.web.serve import serve_demo

    serve_demo(port, log_level)


@app.command()
def serve(
    port: Annotated[int, typer.Option(min=0, max=65535)] = DEFAULT_PORT,
    data: Annotated[Path | None, typer.Option(help="The database; by default the user's data folder.")] = None,
    log_level: LogLevel = "warning",
) -> None:
    """Start with the keeper's own data."""
    from mitten.web.serve import serve_keepers

    try:
        serve_keepers(port, data, log_level)
    except MittenError as error:
        _bad_input(str(error))


@app.command()
def schema() -> None:
    """Print the JSON Schema of the design file."""
    _print(json.dumps(file_schema(), indent=2))


@app.command()
def solve(
    file: DesignFile,
    condition: Annotated[list[str] | None, typer.Option(help="winter-day …, or room=18.5,day.")] = None,
    at: Annotated[list[str] | None, typer.Option(help='A point, "x,y,z,surface|air|inside".')] = None,
    as_json: AsJson = False,
) -> None:
    """Compute the temperatures of a design in one or more conditions."""
    design, catalogue = _read(file)
    try:
        answers = _answers(design, catalogue, condition or list(SEASONAL), at or [])
    except BadDesignError as error:
        _bad_input(*(str(fault) for fault in error.faults))
    unsolved = [answer for answer in answers if isinstance(answer, str)]
    for answer in answers:
        if not isinstance(answer, str):
            _print(json.dumps(answer, ensure_ascii=False) if as_json else answer_lines(answer))
    if unsolved:
        _bad_input(*unsolved)


def _answers(
    design: Design, catalogue: Catalogue, conditions: list[str], at: list[str]
) -> list[dict[str, Any] | str]:  # fmt: skip
    """The report of every condition, or why it has none; all words are read before anything is solved."""
    wanted = [read_condition(design, text) for text in conditions]
    points = [read_point(design, text) for text in at]
    return [_answer(design, catalogue, condition, points) for condition in wanted]


def _answer(
    design: Design, catalogue: Catalogue, condition: Condition, points: Sequence[ReportPoint]
) -> dict[str, Any] | str:
    try:
        climate = solve_condition(design, catalogue, condition)
    except UnsolvedError as error:
        return f"{condition.name}: {error}"
    sure = intervals(climate, more={point.key: point.celsius for point in points})
    return climate_report(condition, climate, [answer_point(climate, point, sure) for point in points], sure)


@app.command(name="assess")
def assess_file(file: DesignFile, as_json: AsJson = False) -> None:
    """Judge a design: every seasonal condition, its targets, its dangers."""
    assessment = assess(*_read(file), today=datetime.now(UTC).date())
    if as_json:
        _print(json.dumps(assessment_report(assessment), ensure_ascii=False, indent=2))
    else:
        _print(assessment_lines(assessment))
    raise typer.Exit(0 if assessment.passes else MISSED)


@app.command()
def simulate(
    file: DesignFile,
    condition: Annotated[str, typer.Option(help="winter-day …, room=18.5,day, or a season: winter, usual, summer.")],
    hours: Annotated[float, typer.Option(help="How long it goes on.")] = 24.0,
    fault: Annotated[list[str] | None, typer.Option(help="What fails at minute 0: power-cut, dead:NAME …")] = None,
    begins: Annotated[
        Literal["steady", "room"], typer.Option("--from", help="room: all at its temperature, switched on at minute 0.")
    ] = "steady",
    as_csv: Annotated[bool, typer.Option("--csv", help="Print every minute instead of a JSON summary.")] = False,
) -> None:
    """Take a design through time in a condition that stays, or through the days of a season."""
    design, catalogue = _read(file)
    try:
        course = _course(design, catalogue, condition, hours, fault or [], begins == "room")
    except BadDesignError as error:
        _bad_input(*(str(one) for one in error.faults))
    except UnsolvedError as error:
        _bad_input(f"--condition {condition}: {error}")
    _print(
        course_csv(course) if as_csv else json.dumps(course_report(course), ensure_ascii=False, indent=2) + "\n", end=""
    )


def _course(
    design: Design, catalogue: Catalogue, condition: str, hours: float, faults: Sequence[str], from_room: bool
) -> Course:
    failures = [read_failure(design, text) for text in faults]
    if len(failures) > 1:
        raise BadDesignError([Fault("--fault", "one failure at a time can be gone through.")])
    minutes_of(hours)
    if condition in SEASONS:
        through = of_season(design, catalogue, condition)
    else:
        through = of_condition(design, catalogue, read_condition(design, condition))
    return run(through, hours, failures[0] if failures else None, from_room=from_room)


@app.command()
def recommend(
    file: DesignFile,
    approach: Annotated[
        Approach | None, typer.Option(help="The approach to follow; the file's where left out.")
    ] = None,
    limit: Annotated[int, typer.Option(min=1, max=20, help="How many plans at most.")] = 5,
    as_json: AsJson = False,
) -> None:
    """Find heat plans for a design's animal, box, room and furniture; its own sources are left aside."""
    design, catalogue = _read(file)
    brief = Brief(design, catalogue, approach or design.approach)
    progress = find_plans(brief)
    plans = progress.plans[:limit]
    if as_json:
        _print(json.dumps([plan_report(plan, progress) for plan in plans], ensure_ascii=False, indent=2))
    else:
        _print(plan_lines(brief, plans, progress))
    raise typer.Exit(0 if plans else MISSED)


def plan_lines(brief: Brief, plans: Sequence[Plan], progress: Progress) -> str:
    """Plans as lines to read, or what stands in their way."""
    lines = [f"{progress.combinations:,} combinations screened, {progress.looked_at} worked out in full."]
    for number, plan in enumerate(plans, 1):
        lines += [
            "",
            f"{number}. {plan.approach}: {source_words(plan.candidate, brief.catalogue)}",
            f"   night: {night_words(plan)}",
            *(f"   also: {words}" for words in asked_of_the_box(plan)),
            f"   {chance_words(plan.chance)} sure that no target of warmth and light is missed; "
            f"{plan.kwh_year:.0f} kWh a year; {plan.price:.0f} by placeholder prices",
            *(f"   {sentence}" for sentence in explanation(plan, progress)),
        ]
    if not plans:
        lines += [
            "",
            "No plan works.",
            *obstacles(progress, brief.catalogue),
            *_mend_lines(nearest(brief, progress), brief.catalogue),
        ]
    return "\n".join(lines)


def _mend_lines(near: Sequence[Near], catalogue: Catalogue) -> list[str]:
    """What would mend each of the nearest plans."""
    return [
        f"  {mend.words}: then {source_words(one.plan.candidate, catalogue)} works."
        for one in near
        for mend in one.mends
    ]


def answer_lines(answer: dict[str, object]) -> str:
    """A solved condition as lines to read."""
    return "\n".join(_flat_lines("", answer))


def _flat_lines(prefix: str, value: object) -> list[str]:
    """Nested objects as lines, each with its path."""
    if isinstance(value, dict):
        inner = [(f"{prefix}.{key}" if prefix else key, item) for key, item in value.items()]
    elif isinstance(value, list) and value and isinstance(value[0], dict):
        inner = [(f"{prefix}[{index}]", item) for index, item in enumerate(value)]
    else:
        shown = value if isinstance(value, str) else json.dumps(value, ensure_ascii=False)
        return [f"{prefix:<36} {shown}"]
    return [line for path, item in inner for line in _flat_lines(path, item)]


def assessment_lines(assessment: Assessment) -> str:
    """An assessment as lines to read."""
    lines = [assessment.design.name, assessment.headline, ""]
    lines += [
        f"{verdict.status:<7} {verdict.label:<24} {figure_words(verdict):>9}  {wants_words(verdict)}  "
        f"({verdict.condition.within}, room {celsius(verdict.condition.room_c)}{_usual_words(verdict)})"
        for verdict in assessment.verdicts
    ]
    lines += ["", assessment.room_rh_words] if assessment.room_rh_words else []
    for finding in assessment.findings:
        lines += ["", f"{finding.severity}: {finding.title}", f"    {finding.reason}", f"    {finding.remedy}"]
    return "\n".join(lines)


def _usual_words(verdict: TargetVerdict) -> str:
    if verdict.usual is None or verdict.condition.is_usual:
        return ""
    off = ", outside what is wanted" if verdict.usual_outside else ""
    return f"; usually {figure_words(verdict, verdict.usual)}{off}"


def _read(file: Path) -> tuple[Design, Catalogue]:
    """Read a design file and the library with what it carries, or leave with one line a fault."""
    try:
        with file.open("rb") as stream:
            # One byte more than is allowed is enough to know that it is too large.
            content = stream.read(MAX_FILE_BYTES + 1)
    except OSError as error:
        _bad_input(f"{file}: {error.strerror}.")
    try:
        design, arrived = read_carrying(content, shipped_catalogue())
        return design, arrived.catalogue
    except BadDesignError as error:
        _bad_input(*(f"{file.name}: {fault}" for fault in error.faults))


def _bad_input(*sentences: str) -> NoReturn:
    for sentence in sentences:
        _print(sentence, err=True)
    raise typer.Exit(BAD_INPUT)


def main() -> None:
    """Run the command; whatever is wrong with how it was called is one line."""
    use_one_thread()
    try:
        code = app(prog_name="mitten", standalone_mode=False)
        sys.stdout.flush()
    except USAGE_ERROR as error:
        _bad_usage(error)
    except MittenError as error:
        _print(str(error), err=True)
        sys.exit(BAD_INPUT)
    except BrokenPipeError:
        # The reader of our output has gone; say nothing on the way out.
        _write_no_more()
        sys.exit(1)
    except OSError as error:
        _write_no_more()
        _print(f"The output could not be written: {error.strerror or error}.", err=True)
        sys.exit(BAD_INPUT)
    except (typer.Abort, KeyboardInterrupt):
        sys.exit(130)
    sys.exit(code or 0)


def _bad_usage(error: Any) -> NoReturn:
    """Say how the command was called wrongly; called with nothing at all, show how it can be."""
    if len(sys.argv) == 1:
        error.show()
    else:
        where = error.ctx.command_path if error.ctx else "mitten"
        said = " ".join(error.format_message().split())
        _print(f"{where}: {said} ({where} --help says more)", err=True)
    sys.exit(BAD_INPUT)


def _write_no_more() -> None:
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
