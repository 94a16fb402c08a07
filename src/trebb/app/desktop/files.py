"""The files a desktop wants, written below a prefix; and taken away again."""

from __future__ import annotations

import shlex
import shutil
import subprocess
from collections.abc import Iterator, Mapping, Sequence
from importlib import resources
from pathlib import Path

from argcomplete.shell_integration import shellcode

import trebb
from trebb.app.window.own_command import own_command

APP_ID = "org.example.Trebb"
SIZES = (16, 24, 32, 48, 64, 128, 256)
# Caches of the desktop, each brought up to date where its program is there.
CACHES = (
    ("update-mime-database", "share/mime"),
    ("update-desktop-database", "share/applications"),
    ("gtk-update-icon-cache", "share/icons/hicolor"),
)


def _own(name: str) -> str:
    return (resources.files("trebb.app.desktop") / name).read_text(encoding="utf-8")


def manual(commands: Mapping[str, str]) -> str:
    """The manual page; commands of the shell with what they do, in order."""
    lines = [
        f'.TH TREBB 1 "" "Trebb {trebb.__version__}" "User commands"',
        ".SH NAME",
        "trebb \\- a bench companion for rebuilding worn machine tools",
        ".SH SYNOPSIS",
        ".B trebb",
        "[\\fIFILE.trebb\\fR | \\fICOMMAND\\fR ...]",
        ".SH DESCRIPTION",
        "Without a command the window opens on its start page, with a job file on that job.",
        "Every command says with \\-\\-help what it takes; an error is one sentence and exit code 1.",
        ".SH COMMANDS",
    ]
    for name, words in commands.items():
        lines += [".TP", f".B {name.replace('-', chr(92) + '-')}", words.replace("-", "\\-")]
    lines += [
        ".SH EXIT STATUS",
        ".TP",
        ".B 0",
        "Done.",
        ".TP",
        ".B 1",
        "Refused: one sentence on standard error says what was given and what would do.",
        ".TP",
        ".B 2",
        "A command or an option that there is not.",
        ".SH FILES",
        ".TP",
        ".I $XDG_DATA_HOME/trebb",
        "The shop's rack and memory, practice jobs, back\\-ups. Jobs are wherever you keep them.",
        ".TP",
        ".I $XDG_STATE_HOME/trebb",
        "Log and reports of mishaps; nothing of a job is in them.",
        "",
    ]
    return "\n".join(lines)


def icon(name: str, size: int) -> bytes:
    """An icon of ours as PNG."""
    from PySide6.QtCore import QBuffer, QByteArray, QIODevice
    from PySide6.QtGui import QImage, QPainter
    from PySide6.QtSvg import QSvgRenderer

    image = QImage(size, size, QImage.Format.Format_ARGB32)
    image.fill(0)
    painter = QPainter(image)
    QSvgRenderer(QByteArray(_own(name).encode())).render(painter)
    painter.end()
    held = QByteArray()
    buffer = QBuffer(held)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")  # type: ignore[call-overload]
    return bytes(held.data())


def as_exec(command: Path) -> str:
    """A program's path as the Exec line of a menu entry wants it: quoted, with every sign that would mean
    something masked, once for the quotes and once for the file's own strings (Desktop Entry Specification
    1.0, "The Exec key").
    """
    quoted = "".join(f"\\{sign}" if sign in '"`$\\' else sign for sign in str(command))
    return f'"{quoted}"'.replace("\\", "\\\\").replace("%", "%%")


def files(commands: Mapping[str, str], prefix: Path) -> Iterator[tuple[str, bytes]]:
    """Every file by its name below the prefix.

    The menu entry starts the command by its whole path: a desktop that was
    logged in before `bin` was on the PATH would not find it by its name.
    """
    entry = _own(f"{APP_ID}.desktop").replace("@COMMAND@", as_exec(prefix.absolute() / "bin/trebb"))
    yield f"share/applications/{APP_ID}.desktop", entry.encode()
    yield "share/mime/packages/trebb.xml", _own("trebb-mime.xml").encode()
    metainfo = _own(f"{APP_ID}.metainfo.xml").replace("@VERSION@", trebb.__version__)
    yield f"share/metainfo/{APP_ID}.metainfo.xml", metainfo.encode()
    yield "share/man/man1/trebb.1", manual(commands).encode()
    yield "share/bash-completion/completions/trebb", shellcode(["trebb"]).encode()
    for source, folder, name in (
        ("trebb.svg", "apps", APP_ID),
        ("trebb-job.svg", "mimetypes", "application-x-trebb-job"),
    ):
        yield f"share/icons/hicolor/scalable/{folder}/{name}.svg", _own(source).encode()
        for size in SIZES:
            yield f"share/icons/hicolor/{size}x{size}/{folder}/{name}.png", icon(source, size)


def wrapper(command: Sequence[str]) -> bytes:
    """The command itself: this very Trebb."""
    return f'#!/bin/sh\nexec {shlex.join(command)} "$@"\n'.encode()


def install(prefix: Path, commands: Mapping[str, str]) -> list[Path]:
    """Write everything below a prefix, the command last; returns what was written."""
    found = []
    for name, data in (*files(commands, prefix), ("bin/trebb", wrapper(own_command()))):
        path = prefix / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(data)
        found.append(path)
    (prefix / "bin/trebb").chmod(0o755)
    _refresh(prefix)
    return found


def uninstall(prefix: Path) -> list[Path]:
    """Take away what `install` wrote, and nothing else: jobs, memory and back-ups stay."""
    found = []
    for name, _ in (*files({}, prefix), ("bin/trebb", b"")):
        path = prefix / name
        if path.exists():
            path.unlink()
            found.append(path)
    _refresh(prefix)
    return found


def _refresh(prefix: Path) -> None:
    for program, folder in CACHES:
        place = shutil.which(program)
        if place and (prefix / folder).is_dir():
            subprocess.run([place, str(prefix / folder)], check=False, capture_output=True)


def place(prefix: Path, commands: Mapping[str, str]) -> list[str]:
    """Install below a prefix; what is to be said of it."""
    written = install(prefix, commands)
    said = [f"{len(written)} files written below {prefix}"]
    if not shutil.which("trebb"):
        said.append(f"{prefix / 'bin'} is not on your PATH: add it, or start {prefix / 'bin/trebb'}")
    return said


def take_away(prefix: Path) -> list[str]:
    """Uninstall from a prefix; what is to be said of it."""
    return [f"{len(uninstall(prefix))} files taken away from {prefix}"]
