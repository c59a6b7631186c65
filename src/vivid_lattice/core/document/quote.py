"""What a quote is made by, and the quotes that were made: they stay as they were."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel
from vivid_lattice.core.document.purchase import Article

_Pct = Annotated[float, Field(ge=0, le=1000)]
_Hours = Annotated[float, Field(ge=0, le=10_000)]
_Coins = Annotated[int, Field(ge=0, le=10**12)]
_Date = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
_Line = Annotated[str, Field(max_length=400)]
#: What a quote offers beside the job as it is designed.
QuoteOption = Literal["designed", "rcbo", "shared-rcd", "with-spd", "without-spd"]


class LabourUnit(DocumentModel):
    """Hours for a piece or a metre of a kind of work, in place of the usual ones."""

    work: Annotated[str, Field(min_length=1, max_length=60)]
    hours: _Hours


class ExtraWork(DocumentModel):
    """Work that is not counted from the design: travel, making good, clearing away."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    hours: _Hours


class QuoteTerms(DocumentModel):
    """What a quote is made by. ``rate`` None: the hourly rate is not stated yet, and there is no quote. ``factor``: on all counted hours."""

    currency: Annotated[str, Field(max_length=8)] = ""
    rate: Annotated[float, Field(gt=0, le=10_000)] | None = None
    factor: Annotated[float, Field(gt=0, le=10)] = 1.0
    labour: Annotated[tuple[LabourUnit, ...], Field(strict=False, max_length=100)] = ()
    extra: Annotated[tuple[ExtraWork, ...], Field(strict=False, max_length=100)] = ()
    markup_pct: _Pct = 0.0
    overhead_pct: _Pct = 0.0
    tax_pct: _Pct | None = None
    valid_days: Annotated[int, Field(ge=1, le=365)] = 30
    options: Annotated[tuple[QuoteOption, ...], Field(strict=False, max_length=5)] = ()


class QuotedLine(DocumentModel):
    """A line of material as it was quoted. Money in coins; ``cost_coins`` None: it had no price, and is not counted."""

    group: Annotated[str, Field(max_length=60)]
    article: Article
    text: _Line
    quantity: Annotated[float, Field(ge=0, le=10**6)] | None = None
    unit: Annotated[str, Field(max_length=20)]
    each_coins: _Coins | None = None
    cost_coins: _Coins | None = None


class QuotedWork(DocumentModel):
    """Hours of a kind of work as they were quoted."""

    work: Annotated[str, Field(max_length=60)]
    text: _Line
    quantity: Annotated[float, Field(ge=0, le=10**6)]
    unit: Annotated[str, Field(max_length=20)]
    hours: _Hours


class QuotedOption(DocumentModel):
    """What an option comes to. ``not_possible``: why there is none; its money is 0 then."""

    option: QuoteOption
    net_coins: _Coins = 0
    tax_coins: _Coins = 0
    gross_coins: _Coins = 0
    not_possible: _Line = ""


class SavedQuote(DocumentModel):
    """A quote as it was made. ``revision``: the one of the job that it was made from."""

    number: Annotated[int, Field(ge=1, le=10_000)]
    made_on: _Date
    valid_until: _Date
    revision: Annotated[int, Field(ge=1)] | None = None
    currency: Annotated[str, Field(max_length=8)] = ""
    lines: Annotated[tuple[QuotedLine, ...], Field(strict=False, max_length=2000)] = ()
    work: Annotated[tuple[QuotedWork, ...], Field(strict=False, max_length=400)] = ()
    excluded: Annotated[tuple[_Line, ...], Field(strict=False, max_length=2000)] = ()
    hours: _Hours
    material_coins: _Coins
    labour_coins: _Coins
    overhead_coins: _Coins
    net_coins: _Coins
    tax_pct: _Pct
    tax_coins: _Coins
    gross_coins: _Coins
    options: Annotated[tuple[QuotedOption, ...], Field(strict=False, max_length=5)] = ()
