"""Where the packaged standards are: a folder each, with the variants of a standard beside its files."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from importlib.resources import files
from importlib.resources.abc import Traversable
from types import MappingProxyType


def data_root() -> Traversable:
    """The folder of the packaged standards."""
    return files("vivid_lattice.core.rules") / "data"


@lru_cache
def standard_ids() -> tuple[str, ...]:
    """Ids of the standards there are: every folder that describes one, and every variant beside it."""
    return tuple(sorted(homes()))


@lru_cache
def homes() -> Mapping[str, tuple[str, Traversable | None]]:
    """Folder of each standard, and the file of what differs where it is a variant."""
    by_id: dict[str, tuple[str, Traversable | None]] = {}
    for folder in data_root().iterdir():
        if not folder.is_dir() or not (folder / "standard.toml").is_file():
            continue
        by_id[folder.name] = (folder.name, None)
        if (folder / "variants").is_dir():
            for file in (folder / "variants").iterdir():
                name = file.name.removesuffix(".toml")
                by_id[f"{folder.name}-{name}"] = (folder.name, file)
    return MappingProxyType(by_id)
