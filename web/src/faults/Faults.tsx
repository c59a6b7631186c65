import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { FaultEvent, FaultResult } from "../api/client";
import { faultKindsQuery, faultQuery } from "../api/queries";
import { FirstCircuit } from "../circuits";
import { BandPlot } from "../curves";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Lacking } from "../needs/Lacking";
import { AffectedRooms } from "./AffectedRooms";
import { EventForm } from "./EventForm";
import { fitting, trimmed, worstLoop } from "./eventModel";
import { Consequences, Outcome } from "./FaultReport";
import { FlowPath } from "./FlowPath";
import { TripLog } from "./TripLog";

/** Pick a place and an event: which devices open, when, what goes dark, what stays live, and what to do next. */
export function Faults() {
  const { document, version, settled, assessment } = useJob();
  const kinds = useQuery(faultKindsQuery(document.job.rules));
  const [wanted, setWanted] = useState<FaultEvent>();
  const event = fitting(document, wanted, worstLoop(document, assessment));
  const answer = useQuery(
    faultQuery(document, version, trimmed(event, kinds.data ?? []), settled && Boolean(kinds.data)),
  );
  const result = answer.error ? undefined : answer.data;
  const empty = !document.circuits?.length;
  return (
    <main className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
      <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-3 overflow-auto px-4 py-3 max-lg:flex-none max-lg:overflow-visible">
        {empty && <FirstCircuit />}
        {kinds.data && !empty && <EventForm event={event} kinds={kinds.data} onChange={setWanted} />}
        {answer.error && !empty && (
          <div role="alert">
            <Lacking error={answer.error} />
          </div>
        )}
        {result && (
          <>
            <Outcome result={result} />
            <div className="grid items-start gap-3 xl:grid-cols-2">
              <AffectedRooms rooms={result.rooms} />
              {result.bands.length > 0 && (
                <section
                  aria-label={t("web.faults.curves")}
                  className="rounded-xl border border-line bg-sheet px-3 py-2"
                >
                  <BandPlot bands={result.bands} height={250} flow={flowOf(result)} />
                </section>
              )}
            </div>
            <FlowPath path={result.path} />
            <Consequences result={result} />
          </>
        )}
      </div>
      <TripLog onShow={setWanted} />
    </main>
  );
}

/** What flows at the fault, for the plot; nothing where it is too little to be seen there. */
function flowOf(result: FaultResult) {
  if (result.fault_a_most < 0.5) return undefined;
  const [least, most] = [Math.floor(result.fault_a_least), Math.ceil(result.fault_a_most)];
  const label = most - least < 2 ? t("web.faults.flow", { most: most }) : `${least}–${most} A`;
  return { least: result.fault_a_least, most: result.fault_a_most, label };
}
