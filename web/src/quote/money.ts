/** An amount in coins as it is shown, with its currency. */
export function money(coins: number, currency = ""): string {
  const sign = coins < 0 ? "−" : "";
  return `${sign}${currency}${(Math.abs(coins) / 100).toFixed(2)}`;
}

/** An amount of a price list as it is shown. */
export function amount(value: number | null | undefined): string {
  return value === null || value === undefined ? "" : value.toFixed(2);
}
