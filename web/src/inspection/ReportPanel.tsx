import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { InspectionView } from "../api/client";
import { catalogueQuery, inspectionQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { AddObservation } from "./AddObservation";
import { Details } from "./Details";
import { Observations } from "./Observations";
import { SignOff } from "./SignOff";
import { Suggested } from "./Suggested";

/** What the certificate or report states beside the readings, what is left to settle, and who signs. */
export function ReportPanel({ by }: { by: string }) {
  const { jobId, document, version } = useJob();
  const view = useQuery(inspectionQuery(document, version));
  const catalogue = useQuery(catalogueQuery(document.job.rules ?? "uk"));
  const error = view.error ?? catalogue.error;
  if (error) return <p role="alert">{error.message}</p>;
  if (!view.data || !catalogue.data) return <p className="text-soft">{t("web.inspection.loading")}</p>;
  return (
    <div className="grid w-full max-w-6xl gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,1fr)_340px]">
      <div className="flex min-w-0 flex-col gap-4">
        <Result view={view.data} />
        <Suggested suggested={view.data.suggested} by={by} />
        <section aria-label={t("web.inspection.observations")}>
          <h2 className="mb-1 text-[14px] font-semibold">{t("web.inspection.observations")}</h2>
          <AddObservation catalogue={catalogue.data} by={by} />
          <Observations coded={view.data.observations} catalogue={catalogue.data} />
        </section>
        <Details />
      </div>
      <aside className="flex min-w-0 flex-col gap-4">
        <SignOff view={view.data} by={by} />
        <p className="text-[12.5px]">
          <Link className="text-accent underline" to={`/jobs/${jobId}/documents`}>
            {t("web.inspection.documents")}
          </Link>
        </p>
      </aside>
    </div>
  );
}

const LOOK = {
  true: "border-pass text-pass",
  false: "border-fail text-fail",
  null: "border-missing text-missing",
};
const SIGN = { true: "✓", false: "✗", null: "?" };

function Result({ view }: { view: InspectionView }) {
  const { satisfactory, counts, rule, source } = view.outcome;
  const key = String(satisfactory ?? null) as keyof typeof LOOK;
  return (
    <section
      aria-label={t("web.inspection.result")}
      data-testid="result"
      data-satisfactory={key}
      className={cx("rounded-md border-l-4 bg-sheet px-3 py-2", LOOK[key])}
    >
      <p className="text-[15px] font-semibold">
        <span aria-hidden>{SIGN[key]}</span>{" "}
        {t("web.inspection.result_is", { outcome: say(view.outcome_text) })}
      </p>
      {counts.length > 0 && (
        <p className="figure text-[13px] text-ink">
          {counts.map(({ code, n }) => `${n} × ${code}`).join(" · ")}
        </p>
      )}
      <p className="text-[12px] text-soft">
        {rule} {source.publication} ({source.provenance})
      </p>
    </section>
  );
}
