"""Fixtures that many tests share."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from oak_square.demo import BATCH

settings.register_profile(
    "here", deadline=None, max_examples=40, suppress_health_check=[HealthCheck.too_slow], derandomize=True
)
settings.load_profile("here")


@pytest.fixture
def batch(tmp_path: Path) -> Path:
    """A copy of the demo batch, to be spoilt at will."""
    folder = tmp_path / "batch"
    shutil.copytree(BATCH, folder)
    return folder
