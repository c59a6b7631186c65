import type { BuyingLine, MaterialView } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { readFigure, TextBox } from "../ui/Field";
import { amount } from "./money";

export type OnPrice = (article: string, each: number | null, pack?: number) => void;

/** What to buy, group by group, with a box for the price of each. Tab goes from price to price. */
export function MaterialTable({
  material,
  onPrice,
  onMeasured,
}: {
  material: MaterialView;
  onPrice: OnPrice;
  onMeasured: (article: string, length_m: number | null) => void;
}) {
  return (
    <section aria-label={t("web.quote.material")}>
      <h2 className="font-semibold">{t("web.quote.material")}</h2>
      {material.lines.length === 0 && <p className="text-soft">{t("web.quote.nothing")}</p>}
      <table className="w-full border-collapse text-[13px]">
        <thead>
          <tr className="text-left text-[12px] text-soft">
            <th className="py-1 font-medium">{t("web.quote.what")}</th>
            <th className="px-2 text-right font-medium">{t("web.quote.quantity")}</th>
            <th className="px-2 text-right font-medium max-sm:hidden">{t("web.quote.pack")}</th>
            <th className="px-2 text-right font-medium">{t("web.quote.each")}</th>
            <th className="pl-2 text-right font-medium">{t("web.quote.cost")}</th>
          </tr>
        </thead>
        {material.groups.map((group) => (
          <tbody key={group.id} data-group={group.id}>
            <tr className="bg-wash">
              <th colSpan={5} className="px-1 py-0.5 text-left font-semibold">
                {say(group.title)}
              </th>
            </tr>
            {material.lines
              .filter((line) => line.group === group.id)
              .map((line) => (
                <Line
                  key={`${line.article} ${say(line.what)}`}
                  line={line}
                  onPrice={onPrice}
                  onMeasured={onMeasured}
                />
              ))}
          </tbody>
        ))}
      </table>
    </section>
  );
}

function Line({
  line,
  onPrice,
  onMeasured,
}: {
  line: BuyingLine;
  onPrice: OnPrice;
  onMeasured: (article: string, length_m: number | null) => void;
}) {
  const what = say(line.what);
  const inLengths = /^(cable|wire|conduit|tails):/.test(line.article);
  const commit = (text: string, pack: number) => {
    const each = readFigure(text);
    if (each !== undefined) onPrice(line.article, each, pack);
  };
  return (
    <tr data-article={line.article} className="border-b border-line/60 align-baseline">
      <td className="py-0.5">
        {what}
        {line.note && <span className="block text-[12px] text-soft">{say(line.note)}</span>}
      </td>
      <td className="figure px-2 text-right whitespace-nowrap max-sm:px-1">
        {line.group === "bonding" && line.unit === "m" ? (
          <>
            <TextBox
              aria-label={t("web.quote.length_of", { what })}
              data-measured
              className="figure w-20! text-right"
              inputMode="decimal"
              placeholder={t("web.quote.measure")}
              value={line.quantity === null || line.quantity === undefined ? "" : String(line.quantity)}
              onCommit={(text) => {
                const length = readFigure(text);
                if (length !== undefined) onMeasured(line.article, length || null);
              }}
            />{" "}
            m
          </>
        ) : line.quantity === null || line.quantity === undefined ? (
          t("web.quote.measured")
        ) : (
          `${line.quantity} ${line.unit}`
        )}
      </td>
      <td className="px-2 text-right max-sm:hidden">
        {!inLengths && line.unit !== "m" && (
          <TextBox
            aria-label={t("web.quote.pack_of", { what })}
            className="figure w-14! text-right"
            inputMode="numeric"
            value={line.pack > 1 ? String(line.pack) : ""}
            placeholder="1"
            onCommit={(text) => {
              const pack = Math.max(1, Math.round(Number(text) || 1));
              if (line.each !== null && line.each !== undefined) onPrice(line.article, line.each, pack);
            }}
          />
        )}
      </td>
      <td className="px-2 text-right">
        <TextBox
          aria-label={t("web.quote.price_of", { what })}
          data-price
          className="figure w-20! max-sm:w-16! text-right"
          inputMode="decimal"
          value={amount(line.each)}
          onCommit={(text) => commit(text, line.pack)}
        />
      </td>
      <td data-cost className="figure pl-2 text-right whitespace-nowrap">
        {amount(line.cost)}
      </td>
    </tr>
  );
}
