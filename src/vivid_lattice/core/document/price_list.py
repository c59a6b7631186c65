"""The price list of a job by article: of a piece or a pack, or of a length that cable and conduit are sold in."""

from __future__ import annotations

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.purchase import ArticlePrice, StockLength

#: Articles that are sold in lengths.
_IN_LENGTHS = ("cable:", "wire:", "conduit:", "tails:")


def with_price(job: Job, article: str, each: float | None, pack: int = 1) -> Job:
    """The job with the price of an article, or without one where ``each`` is None. The price of a length that cable or conduit is sold in is
    what its cutting goes by; of what is cut to length, the price of a metre.
    """
    if article.startswith(_IN_LENGTHS):
        return _with_length(job, article, each)
    others = tuple(price for price in job.prices.articles if price.article != article)
    added = () if each is None else (ArticlePrice(article=article, each=each, pack=pack),)
    return job.model_copy(update={"prices": job.prices.model_copy(update={"articles": (*others, *added)})})


def _with_length(job: Job, article: str, each: float | None) -> Job:
    base, _, last = article.rpartition(":")
    length = _figure(last) if article.count(":") > _parts_of(article) else None
    name = base if length is not None else article
    others = tuple(
        stock
        for stock in job.purchase.stock
        if (stock.article, stock.length_m) != (name, length) or stock.at_hand is not None
    )
    added = () if each is None else (StockLength(article=name, length_m=length, each=each),)
    return job.model_copy(update={"purchase": job.purchase.model_copy(update={"stock": (*others, *added)})})


def is_article(text: str) -> bool:
    """Whether a text names an article: a kind, a colon and a name.

    >>> is_article("box:junction-box"), is_article("mcb")
    (True, False)
    """
    kind, colon, name = text.partition(":")
    return bool(colon and kind.isalpha() and name.strip())


def _parts_of(article: str) -> int:
    """Colons in the name of an article without a length."""
    return {"cable": 2, "wire": 3, "conduit": 1, "tails": 1}[article.split(":")[0]]


def _figure(text: str) -> float | None:
    try:
        return float(text)
    except ValueError:
        return None
