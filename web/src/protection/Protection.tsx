import { useSearchParams } from "react-router";
import { t } from "../messages/text";
import { TabList, TabPanel, TabView } from "../ui/Tabs";
import { BoardFindings } from "./BoardFindings";
import { DeviceLibrary } from "./DeviceLibrary";
import { RcdPlans } from "./RcdPlans";
import { RelaySimulation } from "./RelaySimulation";
import { Selectivity } from "./Selectivity";
import { SurgeProtection } from "./SurgeProtection";

const PARTS = [
  {
    id: "discrimination",
    get title() {
      return t("web.protection.tab.selectivity");
    },
    shows: Selectivity,
  },
  {
    id: "rcds",
    get title() {
      return t("web.protection.tab.rcd_plans");
    },
    shows: RcdPlans,
  },
  {
    id: "surge",
    get title() {
      return t("web.protection.tab.surge");
    },
    shows: SurgeProtection,
  },
  {
    id: "relay",
    get title() {
      return t("web.protection.tab.relay");
    },
    shows: RelaySimulation,
  },
  {
    id: "library",
    get title() {
      return t("web.protection.tab.library");
    },
    shows: DeviceLibrary,
  },
] as const;
type Part = (typeof PARTS)[number]["id"];

/** What protects people and keeps the rest of the house on: how devices stand to each other, and what may be planned. */
export function Protection() {
  const [search, setSearch] = useSearchParams();
  const part = (search.get("part") ?? "discrimination") as Part;
  const setPart = (next: Part) => setSearch({ part: next }, { replace: true });
  const shown = PARTS.find((known) => known.id === part) ?? PARTS[0];
  const Shown = shown.shows;
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-auto px-4 py-2">
      <TabView value={shown.id} onChange={setPart}>
        <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <TabList label={t("web.protection.tabs")} tabs={PARTS} />
          <BoardFindings />
        </div>
        <TabPanel id={shown.id}>
          <Shown />
        </TabPanel>
      </TabView>
    </main>
  );
}
