"""The words of a standard, as parameters of messages: ``{t_rcd}``, ``{t_rcds}``, ``{t_rcd_a}``, ``{t_Rcd}``."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class Vocabulary:
    """The words of a standard. Two are equal where their standard is.

    english  the variant of English it is written in: 'en' or 'en-US'
    forms    by key: the word, its plural (key with 's'), with its article (key with '_a')
    """

    standard: str
    english: str = field(compare=False)
    forms: Mapping[str, str] = field(compare=False, repr=False)

    @classmethod
    def of(cls, standard: str, english: str, words: Mapping[str, Mapping[str, str]]) -> Vocabulary:
        """From ``[vocabulary]`` of a ``standard.toml``: each word with its plural and article where they are not regular."""
        forms: dict[str, str] = {}
        for key, entry in words.items():
            word = entry["word"]
            forms[key] = word
            forms[f"{key}s"] = entry.get("plural", f"{word}s")
            forms[f"{key}_a"] = f"{entry.get('article', _article(word))} {word}"
        return cls(standard, english, forms)

    def form(self, argument: str) -> str:
        """The word for an argument of a template; a capital after ``t_``, or ``_A``, requires a capital letter. KeyError if none."""
        key = argument.removeprefix("t_")
        plain = f"{key[0].lower()}{key[1:]}".removesuffix("_A") + ("_a" if key.endswith("_A") else "")
        word = self.forms[plain]
        return f"{word[0].upper()}{word[1:]}" if plain != key else word


def _article(word: str) -> str:
    return "an" if word[0].lower() in "aeiou" else "a"
