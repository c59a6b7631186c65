import type { QuoteTerms } from "../api/client";
import type { Key } from "../messages/text";

export type Option = NonNullable<QuoteTerms["options"]>[number];

/** What can be priced side by side, in the order of the quote. */
export const OPTIONS: Record<Option, Key> = {
  designed: "web.quote.option.designed",
  rcbo: "web.quote.option.rcbo",
  "shared-rcd": "web.quote.option.shared",
  "with-spd": "web.quote.option.with_spd",
  "without-spd": "web.quote.option.without_spd",
};
