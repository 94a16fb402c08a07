"""A short tone when a reading was taken, and its value spoken where somebody stands too far away to read.

Both go through what the system has: a player of sounds, a speaker of words.
Where there is none, or it was not asked for, nothing is lost.
"""

from __future__ import annotations

import math
import shutil
from pathlib import Path

from PySide6.QtWidgets import QApplication

PLAYERS = ("pw-play", "paplay", "aplay")
SPEAKERS = ("spd-say", "espeak-ng", "espeak")
RATE, TONE_HZ, TONE_S, LOUD = 44_100, 880.0, 0.07, 0.35
SAID = {
    "thou": "thou",
    "µm": "microns",
    "mm": "millimetres",
    "in": "inches",
    "div": "divisions",
    "°C": "degrees",
}

is_on = True  # a tone at each reading
speaks = False  # and its value, from afar


def tone_file() -> Path:
    """The tone as a file that players know, written when first wanted."""
    from platformdirs import user_cache_path

    path = user_cache_path("trebb", appauthor=False) / "taken.wav"
    if not path.is_file():
        import struct
        import wave

        path.parent.mkdir(parents=True, exist_ok=True)
        count = int(RATE * TONE_S)
        loud = [LOUD * math.sin(math.pi * i / count) for i in range(count)]  # without a click at either end
        samples = [round(32_767 * a * math.sin(2 * math.pi * TONE_HZ * i / RATE)) for i, a in enumerate(loud)]
        with wave.open(str(path), "wb") as out:
            out.setnchannels(1)
            out.setsampwidth(2)
            out.setframerate(RATE)
            out.writeframes(struct.pack(f"<{count}h", *samples))
    return path


def _start(program: str, *arguments: str) -> bool:
    """Let a program run by itself; whether it started. Its library is loaded at the first tone."""
    from PySide6.QtCore import QProcess

    return bool(QProcess.startDetached(program, list(arguments))[0])


def taken() -> None:
    """A reading or a size was taken."""
    if not is_on:
        return
    player = next((found for name in PLAYERS if (found := shutil.which(name))), None)
    try:
        if player and _start(player, str(tone_file())):
            return
    except OSError:  # no room for the tone: the bell will do
        pass
    QApplication.beep()


def words_of(text: str) -> str:
    """A value as it is said: “−1.5 thou” is “minus 1.5 thou”."""
    said = text.replace("−", "minus ").replace("±", "plus or minus")
    return " ".join(SAID.get(word, word) for word in said.split())


def speaker() -> str | None:
    """What the system speaks with; None where it cannot."""
    return next((found for name in SPEAKERS if (found := shutil.which(name))), None)


def speak(text: str) -> None:
    """Say a value, if that was asked for and the system can."""
    program = speaker() if speaks else None
    if program:
        _start(program, *(("--",) if program.endswith("spd-say") else ()), words_of(text))
