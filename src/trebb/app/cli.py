"""The command line: `trebb`, `trebb new`, `open`, `demo`, `export`, `import`, `report`, and the shell's."""

from __future__ import annotations

import argparse
import os
import re
import sys
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING

from trebb import __version__
from trebb.app.help import COMMANDS
from trebb.app.look.plain_text import print_plainly
from trebb.app.window.own_command import SOLVE
from trebb.core.errors import TrebbError, echoed
from trebb.core.machine.kinds import KINDS
from trebb.core.units import UnitSystem

if TYPE_CHECKING:
    from trebb.logbook.file.store import JobFile


def parser() -> argparse.ArgumentParser:
    """Every command with its words."""
    top = argparse.ArgumentParser(
        prog="trebb", description="A bench companion for rebuilding worn machine tools."
    )
    top.add_argument("--version", action="version", version=f"trebb {__version__}")
    commands = top.add_subparsers(dest="command", metavar="command")
    new = commands.add_parser("new", help="start a new job; --open shows it in a window")
    new.add_argument("file", type=Path)
    new.add_argument("--machine", default="")
    new.add_argument("--shop", default="My shop")
    new.add_argument("--kind", choices=tuple(KINDS), default="lathe")
    new.add_argument("--rated", choices=("ordinary", "toolroom", "rough"), default="ordinary")
    new.add_argument("--open", action="store_true", help="show it in a window")
    new.add_argument("--no-window", action="store_true", help=argparse.SUPPRESS)  # as it was asked for before
    opened = commands.add_parser("open", help="open a job file")
    opened.add_argument("file", type=Path)
    demo = commands.add_parser("demo", help="open the demo job; without a display, do its main job in text")
    demo.add_argument(
        "machine",
        nargs="?",
        choices=("lathe", "mill", "drill"),
        default="lathe",
        help="which of the depot's machines",
    )
    demo.add_argument("--fresh", action="store_true", help="start the demo job anew")
    demo.add_argument(
        "--headless", action="store_true", help="do the main job without a window even if there is a display"
    )
    demo.add_argument(
        "--out", type=Path, default=Path("demo-output"), help="folder for what is written without a window"
    )
    export = commands.add_parser("export", help="write a job as JSON, its readings as CSV, or a spreadsheet")
    export.add_argument("file", type=Path)
    export.add_argument("--json", type=Path, metavar="OUT")
    export.add_argument("--csv", type=Path, metavar="OUT")
    export.add_argument("--xlsx", type=Path, metavar="OUT", help="a spreadsheet; words stay words")
    export.add_argument("--units", choices=("inch", "metric"), default="inch", help="of its sentences")
    imported = commands.add_parser("import", help="make a job from JSON, or add readings from CSV to a job")
    imported.add_argument("source", type=Path, help="a .json export, or a .csv or .xlsx of readings")
    imported.add_argument("file", type=Path, help="the new job file, or the job that takes the readings")
    report = commands.add_parser("report", help="write the acceptance sheet")
    report.add_argument("file", type=Path)
    report.add_argument("--pdf", type=Path, required=True, metavar="OUT")
    report.add_argument(
        "--part",
        default="",
        help="which part of the machine, such as spindle or cross_slide; else the one repaired",
    )
    report.add_argument("--units", choices=("inch", "metric"), default="inch")
    _places(commands)
    from trebb.app.shell.commands import commands as shell_commands

    shell_commands(commands)
    _with_examples(commands)
    return top


def _places(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    for name, words in (
        ("install", "command, menu entry, icons and kind of file for this user, or below a folder"),
        ("uninstall", "take those away; jobs and memory stay"),
    ):
        place = commands.add_parser(name, help=words)
        place.add_argument("prefix", type=Path, nargs="?", default=Path("~/.local"))


def _with_examples(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    for name, line in examples().items():
        commands.choices[name].formatter_class = argparse.RawDescriptionHelpFormatter
        commands.choices[name].epilog = f"example:\n  {line}"


@cache
def examples() -> dict[str, str]:
    """An example of each command, as it may be typed."""
    text = (Path(__file__).parent / "shell" / "examples.txt").read_text(encoding="utf-8")
    lines = [line.removeprefix("! ") for line in text.splitlines() if not line.startswith("#")]
    return {line.split()[1]: line for line in lines}


def command_words(top: argparse.ArgumentParser | None = None) -> dict[str, str]:
    """Commands of the shell with what they do, in order."""
    found: dict[str, str] = {}
    for action in (top or parser())._actions:
        if isinstance(action, argparse._SubParsersAction):
            for choice in action._choices_actions:
                found[choice.dest] = choice.help or ""
    return found


def has_display() -> bool:
    """Whether a window can be shown."""
    return bool(
        os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY") or os.environ.get("QT_QPA_PLATFORM")
    )


def main(arguments: list[str] | None = None) -> int:
    """Run a command; errors are one plain sentence on standard error and exit code 1."""
    words = sys.argv[1:] if arguments is None else arguments
    print_plainly()
    if words and words[0].endswith(".trebb") and not words[0].startswith("-"):
        words = ["open", *words]  # a double click on a job
    if words == [SOLVE]:
        from trebb.core.planning.solver import main as solve

        return solve()
    for word in words:
        if any("\ud800" <= letter <= "\udfff" for letter in word):
            sentence = echoed(f"“{word}”: it is not in UTF-8; write it anew, or rename the file")
            print(f"trebb: {sentence}", file=sys.stderr)
            return 1
    top, shown = parser(), examples()
    if "_ARGCOMPLETE" in os.environ:  # the shell asks what could stand at Tab
        from trebb.app.shell.completing import complete

        complete(top)
    COMMANDS.update({name: (words, shown[name]) for name, words in command_words(top).items()})
    given = top.parse_args([_not_an_option(word) for word in words])
    try:
        return int(given.run(given)) if hasattr(given, "run") else _run(given)
    except TrebbError as error:
        print(f"trebb: {error}", file=sys.stderr)
        return 1
    except BrokenPipeError:  # whoever read the output has seen enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0


def _not_an_option(word: str) -> str:
    """A reading less than nothing ("-0.3thou", "--5", "-nan") is a value, not an option."""
    dashes = len(word) - len(word.lstrip("-"))
    return (
        f"{'−' * dashes}{word[dashes:]}" if re.match(r"-+([\d.,]|nan\b|inf)", word, re.IGNORECASE) else word
    )


def _run(given: argparse.Namespace) -> int:

    match given.command:
        case "new":
            return _new(given)
        case "open":
            return _open(given.file)
        case "demo":
            return _demo(given)
        case "export":
            return _export(given)
        case "import":
            return _import(given)
        case "report":
            return _report(given)
        case "install" | "uninstall":
            return _place(given)
        case _:
            return _show(None)


def _open(path: Path) -> int:
    """Open a job; where a window has it already, that one comes forward. What cannot be written is looked
    at.
    """
    from trebb.logbook.file.looking import ELSEWHERE, open_or_look

    job_file = open_or_look(path)
    if job_file.why == ELSEWHERE:
        from trebb.app.window.one_window import ring

        if ring(path):
            job_file.close()
            return 0
    return _show(job_file)


def _show(job_file: JobFile | None) -> int:
    if not has_display():
        if job_file is not None:
            job_file.close()
        print(
            "trebb: there is no display here; “trebb demo”, “export”, “import” and “report” work without one",
            file=sys.stderr,
        )
        return 1
    from trebb.app.window.loading import load_before_qt

    load_before_qt()
    from trebb.app.window.gui import run

    return run(job_file)


def _new(given: argparse.Namespace) -> int:
    from trebb.logbook.file.store import JobFile
    from trebb.logbook.log.entries import JobStarted

    started = JobStarted(
        shop=given.shop,
        machine=given.machine or given.file.stem,
        machine_kind=given.kind,
        machine_class=given.rated,
    )
    job_file = JobFile.begin(given.file, [started])
    if not given.open or given.no_window or not has_display():
        job_file.close()
        print(f"Started {given.file}")
        return 0
    return _show(job_file)


def _demo(given: argparse.Namespace) -> int:
    if given.headless or not has_display():
        from trebb.app.shell.headless import run_headless

        if not given.headless:
            print("There is no display here, so the demo does its main job without a window.\n")
        return run_headless(given.out, given.machine)
    from trebb.app.window.demo_job import demo_path, make_demo_job

    path = demo_path(given.machine)
    if path.is_file() and not given.fresh:
        return _open(path)
    return _show(make_demo_job(given.machine))


def _write(path: Path, text: str) -> None:
    from trebb.logbook.file.writing import write_whole

    write_whole(path, text.encode("utf-8"))
    print(f"Written: {path}")


def _export(given: argparse.Namespace) -> int:
    from trebb.core.errors import InputError
    from trebb.logbook.exchange.job_json import export_job
    from trebb.logbook.exchange.readings_csv import readings_to_csv
    from trebb.logbook.file.looking import JobLookedAt
    from trebb.logbook.log.fold import Job

    if given.json is None and given.csv is None and given.xlsx is None:
        raise InputError("nothing to write", "say --json OUT, --csv OUT, --xlsx OUT, or several")
    with JobLookedAt.look(given.file) as job_file:
        if given.json is not None:
            export_job(job_file, given.json)
            print(f"Written: {given.json}")
        if given.csv is not None:
            _write(given.csv, readings_to_csv(Job(job_file.entries())))
        if given.xlsx is not None:
            from trebb.logbook.cases.casework import Cases
            from trebb.logbook.exchange.spreadsheet import write_xlsx

            write_xlsx(Cases(Job(job_file.entries())), UnitSystem(given.units), given.xlsx)
            print(f"Written: {given.xlsx}")
    return 0


def _import(given: argparse.Namespace) -> int:
    from trebb.app.shell.base import TURN_S
    from trebb.logbook.cases.casework import Cases
    from trebb.logbook.exchange.job_json import make_job, read_job_json
    from trebb.logbook.exchange.readings_csv import readings_from_csv
    from trebb.logbook.file.store import JobFile
    from trebb.logbook.log.fold import Job

    suffix = given.source.suffix.lower()
    if suffix in (".csv", ".xlsx"):
        from trebb.logbook.exchange.spreadsheet import readings_text
        from trebb.logbook.file.given_files import read_text

        text = readings_text(given.source) if suffix == ".xlsx" else read_text(given.source)
        with JobFile.open(given.file, wait_s=TURN_S) as job_file:
            found = readings_from_csv(text, Cases(Job(job_file.entries())))
            job_file.append(found.readings)
            print(f"{len(found.readings)} readings added to {given.file}")
        _tell_aside(found.set_aside)
        return 0
    brought = read_job_json(given.source)
    make_job(given.file, brought)
    print(f"{len(brought.entries)} entries restored to {given.file}")
    _tell_aside(brought.set_aside)
    return 0


def _tell_aside(reasons: list[str]) -> None:
    """What was set aside, on standard error: every line of it, for nothing is dropped in silence."""
    for reason in reasons:
        print(f"set aside: {reason}", file=sys.stderr)


def _place(given: argparse.Namespace) -> int:
    if not has_display():
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from trebb.app.desktop.files import place, take_away

    prefix = given.prefix.expanduser()
    said = place(prefix, command_words()) if given.command == "install" else take_away(prefix)
    print("\n".join(said))
    return 0


def _report(given: argparse.Namespace) -> int:
    from trebb.logbook.cases.casework import Cases
    from trebb.logbook.file.looking import JobLookedAt
    from trebb.logbook.log.fold import Job

    if not has_display():
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from trebb.app.parts.report import write_sheet
    from trebb.app.window.gui import application

    with JobLookedAt.look(given.file) as job_file:
        application()
        cases = Cases(Job(job_file.entries()))
        case = (
            cases.of(given.part)
            if given.part
            else next((c for c in cases.measurable() if c.chosen is not None), cases.first())
        )
        pages = write_sheet(case, UnitSystem(given.units), given.pdf)
    print(f"Written: {given.pdf} ({pages} page{'s' if pages > 1 else ''})")
    return 0


if __name__ == "__main__":
    sys.exit(main())
