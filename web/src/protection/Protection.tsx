import { useState } from "react";
import { TabList, TabPanel, TabView } from "../ui/Tabs";
import { BoardFindings } from "./BoardFindings";
import { DeviceLibrary } from "./DeviceLibrary";
import { RcdPlans } from "./RcdPlans";
import { RelaySimulation } from "./RelaySimulation";
import { Selectivity } from "./Selectivity";
import { SurgeProtection } from "./SurgeProtection";

const PARTS = [
  { id: "discrimination", title: "Discrimination", shows: Selectivity },
  { id: "rcds", title: "RCD plans", shows: RcdPlans },
  { id: "surge", title: "Surge", shows: SurgeProtection },
  { id: "relay", title: "Voltage relay", shows: RelaySimulation },
  { id: "library", title: "Device library", shows: DeviceLibrary },
] as const;
type Part = (typeof PARTS)[number]["id"];

/** What protects people and keeps the rest of the house on: how devices stand to each other, and what may be planned. */
export function Protection() {
  const [part, setPart] = useState<Part>("discrimination");
  const shown = PARTS.find((known) => known.id === part) ?? PARTS[0];
  const Shown = shown.shows;
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-auto px-4 py-2">
      <TabView value={part} onChange={setPart}>
        <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <TabList label="Parts of protection" tabs={PARTS} />
          <BoardFindings />
        </div>
        <TabPanel id={part}>
          <Shown />
        </TabPanel>
      </TabView>
    </main>
  );
}
