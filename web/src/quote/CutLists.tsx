import type { CutView } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { readFigure, TextBox } from "../ui/Field";
import type { OnPrice } from "./MaterialTable";
import { amount } from "./money";

/** From which length each piece is cut, drawn to scale; the lengths that are sold, with their prices. */
export function CutLists({ cuts, onPrice }: { cuts: CutView[]; onPrice: OnPrice }) {
  if (!cuts.length) return null;
  return (
    <section aria-label={t("web.quote.cuts")} className="mt-4">
      <h2 className="font-semibold">{t("web.quote.cuts")}</h2>
      {cuts.map((cut) => (
        <details
          key={cut.article}
          data-cut={cut.article}
          className="border-b border-line/60 py-1 text-[13px]"
        >
          <summary className="cursor-pointer">
            {say(cut.what)}{" "}
            <span className="text-soft">
              {t("web.quote.pieces", { n: cut.pieces.length })}
              {cut.lengths.length === 0 && `, ${t("web.quote.to_length")}`}
            </span>
          </summary>
          <Sold cut={cut} onPrice={onPrice} />
          {cut.lengths.map((length, number) => (
            <div key={number} className="my-1">
              <p className="figure text-[12px] text-soft">
                {length.at_hand ? t("web.quote.rest_at_hand") : ""} {length.length_m} m ·{" "}
                {t("web.quote.rest", { m: length.rest_m.toFixed(2) })}
              </p>
              <div className="flex h-6 w-full overflow-hidden rounded border border-line">
                {length.pieces.map((piece, at) => (
                  <span
                    key={at}
                    title={`${say(piece.label)}: ${piece.length_m.toFixed(2)} m`}
                    className="figure truncate border-r border-line bg-wash px-1 text-[11px] leading-6"
                    style={{ width: `${(100 * piece.length_m) / length.length_m}%` }}
                  >
                    {piece.length_m.toFixed(2)}
                  </span>
                ))}
              </div>
              <ul className="mt-0.5 text-[12px] text-soft">
                {length.pieces.map((piece, at) => (
                  <li key={at}>
                    <span className="figure">{piece.length_m.toFixed(2)} m</span> {say(piece.label)}
                  </li>
                ))}
              </ul>
            </div>
          ))}
          {cut.lengths.length === 0 && (
            <ul className="text-[12px] text-soft">
              {cut.pieces.map((piece, at) => (
                <li key={at}>
                  <span className="figure">{piece.length_m.toFixed(2)} m</span> {say(piece.label)}
                </li>
              ))}
            </ul>
          )}
          {cut.gap > 0 && (
            <p className="text-[12px]">{t("web.quote.gap", { pct: (100 * cut.gap).toFixed(1) })}</p>
          )}
        </details>
      ))}
    </section>
  );
}

function Sold({ cut, onPrice }: { cut: CutView; onPrice: OnPrice }) {
  if (!cut.sold.length) return null;
  return (
    <p className="flex flex-wrap items-center gap-3 py-1 text-[12px]">
      {t("web.quote.sold")}
      {cut.sold.map((length) => (
        <span key={length.article} className="flex items-center gap-1">
          <span className="figure">{length.sold_as}</span>
          <TextBox
            aria-label={t("web.quote.price_of", { what: `${say(cut.what)}, ${length.sold_as}` })}
            className="figure w-20! text-right"
            inputMode="decimal"
            value={amount(length.each)}
            onCommit={(text) => {
              const each = readFigure(text);
              if (each !== undefined) onPrice(length.article, each);
            }}
          />
        </span>
      ))}
    </p>
  );
}
