"""What the shell offers at Tab comes from the job that is named on the line."""

from __future__ import annotations

import os
import subprocess
import sys

import pytest

from tests.demo import demo_at


@pytest.fixture(scope="module")
def offered(tmp_path_factory):
    """A function: what is offered after a line, as bash asks for it."""
    folder = tmp_path_factory.mktemp("jobs")
    demo_at(folder / "lathe.trebb").close()
    (folder / "note.txt").write_text("")

    def ask(line):
        answer = folder / "answer"
        told = {
            "_ARGCOMPLETE": "1",
            "_ARGCOMPLETE_IFS": "\n",
            "_ARGCOMPLETE_STDOUT_FILENAME": str(answer),
            "COMP_LINE": line,
            "COMP_POINT": str(len(line)),
        }
        answer.write_text("")
        subprocess.run(
            [sys.executable, "-m", "trebb.app.cli"],
            env={**os.environ, **told},
            cwd=folder,
            check=True,
            timeout=300,
        )
        return [word.strip() for word in answer.read_text().split("\n") if word.strip()]

    return ask


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("trebb find", {"find", "findings"}),
        ("trebb read lathe.trebb cross_", {"cross_slide", "cross_gib"}),
        ("trebb read lathe.trebb cross_slide la", {"lash"}),
        ("trebb choose lathe.trebb cross_slide pair", {"pair_thrust"}),
        ("trebb state lathe.trebb cross_slide div", {"divisions="}),
        ("trebb findings lathe.trebb --part tails", {"tailstock"}),
        ("trebb open l", {"lathe.trebb"}),
        ("trebb read nothing.trebb cross_", set()),
    ],
)
def test_what_could_stand_there_is_offered(offered, line, words):
    assert set(offered(line)) == words


def test_places_are_offered_as_they_are_typed(offered):
    found = offered("trebb read lathe.trebb cross_slide lash s")
    assert len(found) == 5
    assert all("station" in word for word in found)
