"""Writes docs/method/standards.md from the rule sets' data. Usage: python tools/standards_page.py"""

from __future__ import annotations

from pathlib import Path

from vivid_lattice.core.rules.differences import as_markdown, differences

PAGE = Path(__file__).resolve().parent.parent / "docs" / "method" / "standards.md"

if __name__ == "__main__":
    PAGE.write_text(as_markdown(differences()), "utf-8")
    print(f"{PAGE.name}: {len(differences().rows)} questions to {len(differences().standards)} standards")
