import { useEffect } from "react";
import { useSearchParams } from "react-router";
import { AssumptionList } from "../assumptions/AssumptionList";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Boards } from "./Boards";
import { CalculatedSupply } from "./CalculatedSupply";
import { Card } from "./Card";
import { Demand } from "./Demand";
import { EarthingCard } from "./EarthingCard";
import { JobCard } from "./JobCard";
import { PhaseBalance } from "./PhaseBalance";
import { Rooms } from "./Rooms";
import { RulesCard } from "./RulesCard";
import { SetupDrawing } from "./SetupDrawing";
import { SupplyCard } from "./SupplyCard";
import { TailsCard } from "./TailsCard";

/** Brings the section that the address names into view, and the keyboard to its first field. */
function useSection() {
  const [search] = useSearchParams();
  const section = search.get("section");
  useEffect(() => {
    if (!section) return;
    const card = window.document.querySelector<HTMLElement>(`section[aria-label="${CSS.escape(section)}"]`);
    card?.scrollIntoView({ block: "start" });
    card?.querySelector<HTMLElement>("input, button, select")?.focus({ preventScroll: true });
  }, [section]);
}

/** What arrives, boards and rooms; beside it the drawing, the demand and the cautions. */
export function Setup() {
  const { rules, assessment } = useJob();
  useSection();
  return (
    <main className="min-h-0 flex-1 overflow-auto px-4 py-4">
      <div className="mx-auto grid max-w-6xl gap-6 lg:grid-cols-[1fr_400px]">
        <div className="flex flex-col gap-6">
          {(assessment?.to_confirm ?? 0) > 0 && (
            <Card title={t("web.assumed.count", { n: assessment?.to_confirm ?? 0 })}>
              <div className="max-h-80 overflow-y-auto">
                <AssumptionList />
              </div>
            </Card>
          )}
          <JobCard />
          <SupplyCard />
          <TailsCard />
          <CalculatedSupply />
          <EarthingCard />
          <Boards />
          <Rooms />
          <RulesCard />
        </div>
        <aside className="flex flex-col gap-4">
          <SetupDrawing />
          <Demand />
          <PhaseBalance />
          <ul
            className="flex list-disc flex-col gap-1 pl-5 text-[12.5px] text-soft"
            aria-label={t("web.setup.cautions")}
          >
            {rules.cautions.map((caution) => (
              <li key={caution}>{caution}</li>
            ))}
          </ul>
        </aside>
      </div>
    </main>
  );
}
