"""How material is bought for a job: prices by article, lengths that are sold or at hand, waste and spares."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel

#: What an article of the material list is called in a price list: ``socket:2``, ``cable:flat-twin-pvc:2x2.5``.
Article = Annotated[str, Field(min_length=1, max_length=120)]
Money = Annotated[float, Field(ge=0, le=100_000)]
_Share = Annotated[float, Field(ge=0, le=100)]


class ArticlePrice(DocumentModel):
    """What an article costs: a pack of so many."""

    article: Article
    each: Money
    pack: Annotated[int, Field(ge=1, le=10_000)] = 1


class StockLength(DocumentModel):
    """A length in which an article is sold, or a rest that is at hand. ``length_m`` None: cut to length, ``each`` a metre. ``each`` None: no
    price yet. ``at_hand``: how many there are, bought already."""

    article: Article
    length_m: Annotated[float, Field(gt=0, le=2000)] | None = None
    each: Money | None = None
    at_hand: Annotated[int, Field(ge=1, le=100)] | None = None


class MeasuredLength(DocumentModel):
    """The length of an article that only a measurement on site can tell, as of bonding conductors."""

    article: Article
    length_m: Annotated[float, Field(gt=0, le=2000)]


class Purchase(DocumentModel):
    """How material is bought. Percentages None: as usual."""

    stock: Annotated[tuple[StockLength, ...], Field(strict=False, max_length=400)] = ()
    measured: Annotated[tuple[MeasuredLength, ...], Field(strict=False, max_length=400)] = ()
    cable_pct: _Share | None = None
    clips_pct: _Share | None = None
    connectors_pct: _Share | None = None
    conduit_pct: _Share | None = None
    accessories_pct: _Share | None = None
