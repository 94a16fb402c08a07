"""Recordings of how a machine sounds: a sound file checked by its head, kept in the job as it was given."""

from __future__ import annotations

import io
import wave
from pathlib import Path

from trebb.core.errors import InputError
from trebb.logbook.file.given_files import read_given
from trebb.logbook.file.store import sha256_of

MOST_BYTES = 40 * 1024 * 1024  # as of a photograph
# What such files begin with, and at which byte (RFC 3533, RFC 9639, ISO/IEC 14496-12, 11172-3, 13818-7).
_HEADS = (
    (0, b"OggS", "audio/ogg"),
    (0, b"fLaC", "audio/flac"),
    (4, b"ftypM4A", "audio/mp4"),
    (0, b"ID3", "audio/mpeg"),
    (0, b"\xff\xfb", "audio/mpeg"),
    (0, b"\xff\xf1", "audio/aac"),
)


class RecordingError(InputError):
    """A file that is no recording, or too large."""


def read_recording(path: Path) -> tuple[str, str, bytes]:
    """sha256, media type and bytes of a sound file.

    Raises RecordingError: no such file, no recording, cut off (of WAV it can be told), over 40 MB.
    """
    data = read_given(path, MOST_BYTES, RecordingError)
    return sha256_of(data), _media_type(path.name, data), data


def _media_type(name: str, data: bytes) -> str:
    if data[:4] == b"RIFF" and data[8:12] == b"WAVE":
        try:
            with wave.open(io.BytesIO(data)) as sound:
                whole = sound.getnframes() * sound.getnchannels() * sound.getsampwidth()
                if not whole or len(sound.readframes(sound.getnframes())) < whole:
                    raise RecordingError(name, "it is cut off, or holds nothing; copy it again")
        except (wave.Error, EOFError):
            raise RecordingError(name, "this recording cannot be read; save it as plain WAV") from None
        return "audio/wav"
    for at, head, kind in _HEADS:
        if data[at : at + len(head)] == head:
            return kind
    raise RecordingError(name, "this is no recording; WAV, FLAC, Ogg, MP3 or M4A would do")
