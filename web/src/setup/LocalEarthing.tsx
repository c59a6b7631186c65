import type { Job } from "../api/client";
import { useJob } from "../job/JobContext";
import { capital, t } from "../messages/text";
import { Button } from "../ui/Button";
import { fromYesNo, YES_NO, yesNo } from "../ui/Check";
import { Choice, FigureField } from "../ui/Field";
import { MainBonds, RoomBonds } from "./Bonds";
import { SizeChoice } from "./SizeChoice";

export type LocalEarthing = NonNullable<Job["boards"][number]["earthing"]>;
type Kind = LocalEarthing["kind"];
type Rods = NonNullable<LocalEarthing["electrode"]>;

const OF_BOARD: Kind[] = ["same-building", "exported", "electrode", "exported-and-electrode", "neutral-link"];
const OF_POINTS: Kind[] = ["electrode", "exported-and-electrode"];
const KIND_TEXT = (): Record<Kind, string> => ({
  "same-building": t("web.setup.local_earth.same"),
  exported: t("web.setup.local_earth.exported"),
  electrode: t("web.setup.local_earth.electrode"),
  "exported-and-electrode": t("web.setup.local_earth.both"),
  "neutral-link": t("web.setup.local_earth.link"),
});

/** Where the earth of a board in another building comes from, or of the points of a circuit, and what belongs to it. */
export function LocalEarthingFields({
  of,
  earthing,
  onChange,
}: {
  of: "board" | "points";
  earthing: LocalEarthing | null | undefined;
  onChange: (earthing: LocalEarthing | null) => void;
}) {
  const { rules, document } = useJob();
  const kinds = of === "points" ? OF_POINTS : OF_BOARD;
  const set = (part: Partial<LocalEarthing>) => earthing && onChange({ ...earthing, ...part });
  const kind = earthing?.kind;
  const own = kind === "electrode" || kind === "exported-and-electrode" || kind === "neutral-link";
  return (
    <div className="grid items-start gap-3 sm:grid-cols-4">
      <div className="sm:col-span-2">
        <Choice
          label={t(
            of === "points" ? "web.setup.local_earth.kind_points" : "web.setup.local_earth.kind_board",
          )}
          value={kind ?? ""}
          options={[
            {
              value: "",
              label: t(of === "points" ? "web.setup.local_earth.of_board" : "web.common.not_known"),
            },
            ...kinds.map((value) => ({ value, label: KIND_TEXT()[value] })),
          ]}
          onCommit={(value) => onChange(value ? { ...(earthing ?? BLANK), kind: value as Kind } : null)}
        />
      </div>
      {own && (
        <>
          <FigureField
            label={t("web.setup.local_earth.ohm")}
            unit="Ω"
            value={earthing?.electrode_ohm}
            hint={t("web.setup.local_earth.ohm_hint")}
            onCommit={(electrode_ohm) => set({ electrode_ohm })}
          />
          <SizeChoice
            label={capital(rules.vocabulary.earthing_conductor ?? t("web.setup.earthing.earthing_conductor"))}
            value={earthing?.conductor_mm2}
            onCommit={(conductor_mm2) => set({ conductor_mm2 })}
          />
        </>
      )}
      {own && earthing && (
        <RodFields rods={earthing.electrode} onChange={(electrode) => set({ electrode })} />
      )}
      {kind === "neutral-link" && rules.link_systems.includes(document.supply.system) && (
        <SizeChoice
          label={capital(rules.vocabulary.link ?? t("web.setup.earthing.link"))}
          value={earthing?.link_mm2}
          onCommit={(link_mm2) => set({ link_mm2 })}
        />
      )}
      {(kind === "electrode" || kind === "neutral-link") && (
        <Choice
          label={t("web.setup.local_earth.feeder_earth")}
          value={yesNo(earthing?.feeder_earth_connected)}
          options={YES_NO}
          onCommit={(value) => set({ feeder_earth_connected: fromYesNo(value) })}
        />
      )}
      {kind === "electrode" && (
        <FigureField
          label={t("web.setup.local_earth.separation")}
          unit="m"
          value={earthing?.separation_m}
          hint={t("web.setup.local_earth.separation_hint")}
          onCommit={(separation_m) => set({ separation_m })}
        />
      )}
      {of === "board" && kind && kind !== "same-building" && (
        <>
          <Choice
            label={t("web.setup.local_earth.metalwork")}
            value={earthing?.bonds?.length ? "yes" : yesNo(earthing?.has_metalwork)}
            options={YES_NO}
            disabled={Boolean(earthing?.bonds?.length)}
            onCommit={(value) => set({ has_metalwork: fromYesNo(value) })}
          />
          {(earthing?.has_metalwork || Boolean(earthing?.bonds?.length)) && (
            <div className="sm:col-span-4">
              <MainBonds bonds={earthing?.bonds ?? []} onChange={(bonds) => set({ bonds })} />
            </div>
          )}
          <div className="sm:col-span-4">
            <RoomBonds
              bonds={earthing?.supplementary ?? []}
              onChange={(supplementary) => set({ supplementary })}
            />
          </div>
        </>
      )}
    </div>
  );
}

const BLANK: LocalEarthing = { kind: "exported", bonds: [], supplementary: [] };
const USUAL_RODS: Rods = { soil_ohm_m: 100, rod_length_m: 2.4, rod_diameter_mm: 14.2, rods: 1 };

/** Rods in soil, from which the resistance is calculated until it is measured. */
function RodFields({
  rods,
  onChange,
}: {
  rods: Rods | null | undefined;
  onChange: (rods: Rods | null) => void;
}) {
  if (!rods)
    return (
      <Button variant="quiet" className="mt-5 self-start" onClick={() => onChange(USUAL_RODS)}>
        {t("web.setup.local_earth.calculate")}
      </Button>
    );
  const set = (part: Partial<Rods>) => onChange({ ...rods, ...part });
  return (
    <div className="grid gap-3 sm:col-span-4 sm:grid-cols-5">
      <FigureField
        label={t("web.setup.calculated.soil")}
        unit="Ω·m"
        required
        value={rods.soil_ohm_m}
        onCommit={(soil_ohm_m) => soil_ohm_m && set({ soil_ohm_m })}
      />
      <FigureField
        label={t("web.setup.calculated.rod_length")}
        unit="m"
        required
        value={rods.rod_length_m}
        onCommit={(rod_length_m) => rod_length_m && set({ rod_length_m })}
      />
      <FigureField
        label={t("web.setup.calculated.rods")}
        unit=""
        required
        value={rods.rods}
        onCommit={(count) => count && set({ rods: Math.round(count) })}
      />
      <FigureField
        label={t("web.setup.calculated.rod_spacing")}
        unit="m"
        value={rods.spacing_m}
        empty={t("web.setup.calculated.rod_spacing_empty")}
        onCommit={(spacing_m) => set({ spacing_m })}
      />
      <Button variant="quiet" className="mt-5 self-start" onClick={() => onChange(null)}>
        {t("web.setup.calculated.measure")}
      </Button>
    </div>
  );
}
