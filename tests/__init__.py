"""Tests. Generated examples are the same at every run, so that a build says the same twice; set EXPLORE=1 to look
for new ones."""

from __future__ import annotations

import os

from hypothesis import settings

settings.register_profile("steady", derandomize=True, database=None)
settings.register_profile("explore", database=None)
settings.load_profile("explore" if os.environ.get("EXPLORE") else "steady")
