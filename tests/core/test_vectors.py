"""What displays do without network is held against the core's own word."""

import json

import pytest
from vectors import vectors


@pytest.mark.parametrize("path", vectors(), ids=lambda path: path.parent.name)
def test_the_vectors_for_displays_are_the_cores_own(path):
    assert json.loads(path.read_text("utf-8")) == vectors()[path], "run tools/vectors.py"
