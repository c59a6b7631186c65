import type { QuoteView } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { money } from "./money";

const ROWS: { key: "material" | "labour" | "overhead" | "net" | "tax" | "gross"; label: Key }[] = [
  { key: "material", label: "web.quote.sum.material" },
  { key: "labour", label: "web.quote.sum.labour" },
  { key: "overhead", label: "web.quote.sum.overhead" },
  { key: "net", label: "web.quote.sum.net" },
  { key: "tax", label: "web.quote.sum.tax" },
  { key: "gross", label: "web.quote.sum.gross" },
];

/** What it comes to, or what a quote still needs. */
export function Sums({ view }: { view: QuoteView }) {
  const { document } = useJob();
  const currency = document.quote?.currency ?? "";
  const { sums } = view;
  return (
    <section aria-label={t("web.quote.price")} data-testid="sums">
      <h2 className="font-semibold">{t("web.quote.price")}</h2>
      {view.lacks.map((lack) => (
        <p key={say(lack)} className="text-[13px] text-missing">
          ? {say(lack)}
        </p>
      ))}
      {sums && (
        <dl className="grid grid-cols-[1fr_auto] text-[13px]">
          {ROWS.map(({ key, label }) => (
            <div key={key} className={key === "gross" ? "contents font-semibold" : "contents"}>
              <dt className="border-b border-line/60 py-0.5">
                {t(label)}
                {key === "labour" && <span className="figure text-soft"> {view.hours.toFixed(2)} h</span>}
              </dt>
              <dd data-sum={key} className="figure border-b border-line/60 py-0.5 text-right">
                {money(sums[key], currency)}
              </dd>
            </div>
          ))}
        </dl>
      )}
      <p className="mt-1 text-[12px] text-soft">
        {view.material.unpriced > 0
          ? t("web.quote.unpriced", { n: view.material.unpriced })
          : t("web.quote.all_priced")}
      </p>
    </section>
  );
}
