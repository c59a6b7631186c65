import type { QuoteTerms, QuoteView } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { readFigure, TextBox } from "../ui/Field";

/** The hours, kind by kind; every labour unit can be typed over. */
export function WorkTable({ view }: { view: QuoteView }) {
  const { document, edit } = useJob();
  const terms = (document.quote ?? {}) as QuoteTerms;
  const counted = new Map(view.work.map((line) => [line.work, line]));
  const set = (work: string, text: string, usual: number) => {
    const hours = readFigure(text);
    if (hours === undefined) return;
    const others = (terms.labour ?? []).filter((unit) => unit.work !== work);
    const labour = hours === null || hours === usual ? others : [...others, { work, hours }];
    edit({ ...document, quote: { ...terms, labour } });
  };
  return (
    <section aria-label={t("web.quote.work")} className="mt-4">
      <h2 className="font-semibold">{t("web.quote.work")}</h2>
      <table className="w-full border-collapse text-[13px]">
        <thead>
          <tr className="text-left text-[12px] text-soft">
            <th className="py-1 font-medium">{t("web.quote.what")}</th>
            <th className="px-2 text-right font-medium">{t("web.quote.quantity")}</th>
            <th className="px-2 text-right font-medium">{t("web.quote.unit_hours")}</th>
            <th className="pl-2 text-right font-medium">{t("web.quote.hours")}</th>
          </tr>
        </thead>
        <tbody>
          {view.labour
            .filter((row) => counted.has(row.work))
            .map((row) => {
              const line = counted.get(row.work);
              return (
                <tr key={row.work} data-work={row.work} className="border-b border-line/60 align-baseline">
                  <td className="py-0.5">{row.title}</td>
                  <td className="figure px-2 text-right whitespace-nowrap">
                    {line?.quantity} {line?.unit}
                  </td>
                  <td className="px-2 text-right">
                    <TextBox
                      aria-label={t("web.quote.hours_of", { work: row.title })}
                      className="figure w-16! text-right"
                      inputMode="decimal"
                      value={String(row.hours)}
                      onCommit={(text) => set(row.work, text, row.usual_hours)}
                    />
                  </td>
                  <td data-hours className="figure pl-2 text-right">
                    {line?.hours.toFixed(2)}
                  </td>
                </tr>
              );
            })}
          {view.work
            .filter((line) => line.work.startsWith("extra:"))
            .map((line) => (
              <tr key={line.work} className="border-b border-line/60">
                <td colSpan={3} className="py-0.5">
                  {say(line.title)}
                </td>
                <td className="figure pl-2 text-right">{line.hours.toFixed(2)}</td>
              </tr>
            ))}
        </tbody>
      </table>
      <p className="mt-1 text-[12px] text-soft">{t("web.quote.work_note")}</p>
    </section>
  );
}
