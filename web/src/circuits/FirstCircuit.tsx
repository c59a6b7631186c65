import { useNavigate } from "react-router";
import type { Board } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { QuickEntry } from "./QuickEntry";

/** What a view shows while the job, or a board of it, has no circuits: why it shows nothing else, and the box to type the first one into. */
export function FirstCircuit({ board }: { board?: Board }) {
  const { document, jobId } = useJob();
  const navigate = useNavigate();
  return (
    <section className="max-w-2xl rounded-xl border border-dashed border-missing bg-sheet p-4">
      <h2 className="font-semibold">{t("web.circuits.empty_title")}</h2>
      <p className="mb-3 text-[13px] text-soft">
        {t("web.circuits.first_text", { example: t("web.circuits.empty_example") })}
      </p>
      <QuickEntry
        boards={board ? [board] : (document.boards ?? [])}
        onAdded={() => undefined}
        // A table is matched where its rows go.
        onTable={(table) => navigate(`/jobs/${jobId}/circuits`, { state: { table } })}
      >
        {null}
      </QuickEntry>
    </section>
  );
}
