import { useQuery } from "@tanstack/react-query";
import { client } from "../api/client";
import { quoteQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { useAnsweredEdit } from "../job/useAnsweredEdit";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { CutLists } from "./CutLists";
import { MaterialTable } from "./MaterialTable";
import { Saved } from "./Saved";
import { Sums } from "./Sums";
import { Terms } from "./Terms";
import { WorkTable } from "./WorkTable";

/** What to buy and to cut, the hours, and the price of all of it. */
export function QuotePage() {
  const { document, version, edit } = useJob();
  const view = useQuery(quoteQuery(document, version));
  const answeredEdit = useAnsweredEdit();
  const price = (article: string, each: number | null, pack = 1) =>
    void answeredEdit(client.POST("/api/material/price", { body: { document, article, each, pack } }));
  const measured = (article: string, length_m: number | null) => {
    const { purchase } = document;
    const others = (purchase?.measured ?? []).filter((each) => each.article !== article);
    const added = length_m === null ? [] : [{ article, length_m }];
    edit({ ...document, purchase: { ...purchase, measured: [...others, ...added] } as typeof purchase });
  };
  const { data } = view;
  return (
    <main className="min-h-0 flex-1 overflow-auto px-4 py-3 max-sm:px-2">
      {view.error && <p role="alert">{view.error.message}</p>}
      {!data && !view.error && <p className="text-soft">{t("web.quote.loading")}</p>}
      {data && (
        <div className="grid gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
          <div className="min-w-0">
            <MaterialTable material={data.material} onPrice={price} onMeasured={measured} />
            <CutLists cuts={data.material.cuts} onPrice={price} />
            {data.material.missing.length > 0 && (
              <section aria-label={t("web.quote.missing")} className="mt-4">
                <h2 className="font-semibold">{t("web.quote.missing")}</h2>
                <ul className="text-[13px] text-missing">
                  {data.material.missing.map((each) => (
                    <li key={say(each)}>? {say(each)}</li>
                  ))}
                </ul>
              </section>
            )}
          </div>
          <div className="min-w-0">
            <Sums view={data} />
            <Saved view={data} />
            <Terms />
            <WorkTable view={data} />
          </div>
        </div>
      )}
    </main>
  );
}
