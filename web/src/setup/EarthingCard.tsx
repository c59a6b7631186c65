import type { Supply } from "../api/client";
import { Answer } from "../circuits";
import { useJob } from "../job/JobContext";
import { capital, t } from "../messages/text";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { MainBonds, RoomBonds } from "./Bonds";
import { Card } from "./Card";
import { SizeChoice } from "./SizeChoice";

type Earthing = NonNullable<Supply["earthing"]>;
const BLANK: Earthing = { electrode_only: false, bonds: [], supplementary: [] };

/** The main earth: its conductor, the link to the neutral, what is bonded, and whether that is enough. */
export function EarthingCard() {
  const { document, rules, edit, assessment } = useJob();
  const { supply } = document;
  const earthing = supply.earthing ?? BLANK;
  const set = (part: Partial<Earthing>) =>
    edit({ ...document, supply: { ...supply, earthing: { ...earthing, ...part } } });
  const findingOf = (check: string) =>
    assessment?.findings.find((finding) => finding.subject.kind === "supply" && finding.check === check);
  const {
    link = t("web.setup.earthing.link"),
    bonding = "bonding",
    earthing_conductor = t("web.setup.earthing.earthing_conductor"),
  } = rules.vocabulary;
  return (
    <Card title={t("web.setup.earthing.title")}>
      <div className="grid gap-3 sm:grid-cols-3">
        <SizeChoice
          label={capital(earthing_conductor)}
          value={earthing.conductor_mm2}
          onCommit={(conductor_mm2) => set({ conductor_mm2 })}
        />
        {rules.link_systems.includes(supply.system) && (
          <SizeChoice
            label={capital(link)}
            value={earthing.link_mm2}
            onCommit={(link_mm2) => set({ link_mm2 })}
          />
        )}
        {rules.pen_systems.includes(supply.system) && (
          <SizeChoice
            label={t("web.setup.earthing.pen")}
            value={earthing.pen_mm2}
            empty={t("web.setup.earthing.pen_empty")}
            onCommit={(pen_mm2) => set({ pen_mm2 })}
          />
        )}
        <Check
          className="flex items-center gap-2 self-end pb-1 text-[13px]"
          checked={earthing.electrode_only ?? false}
          onChange={(checked) => set({ electrode_only: checked })}
        >
          {t("web.setup.earthing.electrode_alone")}
        </Check>
      </div>
      <h3 className="mb-1 mt-3 text-[12px] font-semibold text-soft">{capital(bonding)}</h3>
      <MainBonds bonds={earthing.bonds ?? []} onChange={(bonds) => set({ bonds })} />
      <div className="mt-2">
        <RoomBonds
          bonds={earthing.supplementary ?? []}
          onChange={(supplementary) => set({ supplementary })}
        />
        {!supply.earthing && (
          <Button onClick={() => set({ bonds: [] })}>{t("web.setup.earthing.nothing_to_bond")}</Button>
        )}
      </div>
      <div className="mt-3 grid gap-4 sm:grid-cols-2">
        {["earthing", "bonding"].map((check) => {
          const finding = findingOf(check);
          return finding ? <Answer key={check} finding={finding} /> : null;
        })}
      </div>
    </Card>
  );
}
