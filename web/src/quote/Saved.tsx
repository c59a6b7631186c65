import { useState } from "react";
import { answered, client, type QuoteChange, type QuoteView } from "../api/client";
import { useExport } from "../documents/useExport";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { Button } from "../ui/Button";
import { money } from "./money";
import { OPTIONS } from "./options";

const CHANGED: Record<QuoteChange["what"], Key> = {
  added: "web.quote.changed.added",
  removed: "web.quote.changed.removed",
  quantity: "web.quote.changed.quantity",
  price: "web.quote.changed.price",
  hours: "web.quote.changed.hours",
};

/** Quotes that were saved, each with the revision that it was made from; what changed since the last; its copies. */
export function Saved({ view }: { view: QuoteView }) {
  const { document, edit, notify, saved } = useJob();
  const [busy, setBusy] = useState(false);
  const exporting = useExport();
  const quotes = document.quotes ?? [];
  const last = quotes[quotes.length - 1];
  const save = async () => {
    setBusy(true);
    try {
      const revision = await saved();
      const answer = await answered(
        client.POST("/api/material/quote/save", { body: { document, revision } }),
      );
      edit(answer.document, document);
    } catch (error) {
      notify((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-label={t("web.quote.saved")} className="mt-4 text-[13px]" data-testid="saved-quotes">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="font-semibold">{t("web.quote.saved")}</h2>
        <Button variant="strong" disabled={!view.sums || busy} onClick={() => void save()}>
          {busy ? t("web.quote.saving") : t("web.quote.save")}
        </Button>
        {last && (
          <>
            <Button
              onClick={() => void exporting.save({ kind: "quote-client", title: t("web.quote.client_copy") })}
            >
              {t("web.quote.client_copy")}
            </Button>
            <Button onClick={() => void exporting.save({ kind: "quote", title: t("web.quote.our_copy") })}>
              {t("web.quote.our_copy")}
            </Button>
          </>
        )}
      </div>
      {exporting.wrong.map((line) => (
        <p key={line} role="alert" className="text-fail">
          {line}
        </p>
      ))}
      <ul>
        {[...quotes].reverse().map((quote) => (
          <li key={quote.number} data-quote={quote.number} className="border-b border-line/60 py-0.5">
            {t("web.quote.line", {
              n: quote.number,
              date: quote.made_on,
              revision: quote.revision ? String(quote.revision) : "–",
              until: quote.valid_until,
            })}{" "}
            <b className="figure">{money(quote.gross_coins, quote.currency)}</b>
            {(quote.options ?? []).length > 0 && (
              <ul className="ml-4 text-[12.5px]">
                {(quote.options ?? []).map((option) => (
                  <li key={option.option} data-option={option.option}>
                    {t(OPTIONS[option.option])}:{" "}
                    {option.not_possible || (
                      <span className="figure">{money(option.gross_coins ?? 0, quote.currency)}</span>
                    )}
                  </li>
                ))}
              </ul>
            )}
          </li>
        ))}
      </ul>
      {last && view.changes.length > 0 && (
        <details className="mt-1" data-testid="changes">
          <summary className="cursor-pointer text-accent">
            {t("web.quote.changed.title", { n: last.number, count: view.changes.length })}
          </summary>
          <ul className="text-[12.5px]">
            {view.changes.map((change) => (
              <li key={`${change.what} ${change.text}`}>
                {t(CHANGED[change.what], {
                  text: change.text,
                  before: change.before === null || change.before === undefined ? "–" : String(change.before),
                  now: change.now === null || change.now === undefined ? "–" : String(change.now),
                })}
              </li>
            ))}
          </ul>
        </details>
      )}
      {view.excluded.length > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer text-accent">
            {t("web.quote.excluded", { n: view.excluded.length })}
          </summary>
          <ul className="text-[12.5px] text-soft">
            {view.excluded.map((each) => (
              <li key={say(each)}>{say(each)}</li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
