"""Exercises for a class as a file: boards by their numbers, and exercises without a board."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel
from vivid_lattice.core.training.exercises.exercise import ExerciseKind
from vivid_lattice.core.training.session import BoardSpec

FORMAT: Literal["vivid-lattice-class/1"] = "vivid-lattice-class/1"


class ClassExercise(DocumentModel):
    """An exercise of a kind and number in a standard."""

    standard: Annotated[str, Field(max_length=20)]
    kind: ExerciseKind
    number: Annotated[int, Field(ge=0, le=10**9)]


class ClassFile(DocumentModel):
    """What a class is given: the same for everybody."""

    format: Literal["vivid-lattice-class/1"] = FORMAT
    title: Annotated[str, Field(min_length=1, max_length=120)]
    boards: Annotated[tuple[BoardSpec, ...], Field(strict=False, max_length=100)] = ()
    exercises: Annotated[tuple[ClassExercise, ...], Field(strict=False, max_length=500)] = ()
