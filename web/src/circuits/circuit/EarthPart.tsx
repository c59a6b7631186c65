import type { Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { capital, t } from "../../messages/text";
import { LocalEarthingFields } from "../../setup/LocalEarthing";
import { SizeChoice } from "../../setup/SizeChoice";
import { Check, fromYesNo, YES_NO, yesNo } from "../../ui/Check";
import { Choice } from "../../ui/Field";
import { type Change, Part } from "./Part";

type CleanEarth = NonNullable<Circuit["clean_earth"]>;

/** Earths of a circuit's points that are not its board's: an electrode of their own outdoors, a clean earth of its outlets. */
export function EarthPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { document } = useJob();
  const outdoors = new Set(
    (document.rooms ?? []).filter((room) => room.kind === "outdoors").map((room) => room.id),
  );
  const outside = circuit.loads?.some(
    (load) => load.kind === "charger" || (load.room && outdoors.has(load.room)),
  );
  const outlets = circuit.loads?.some((load) => load.kind === "socket");
  const own = Boolean(circuit.earthing) || outside;
  if (circuit.kind === "distribution" || !(own || circuit.clean_earth || outlets)) return null;
  return (
    <Part title={t("web.circuit.earth.title")}>
      {own && (
        <LocalEarthingFields
          of="points"
          earthing={circuit.earthing}
          onChange={(earthing) => change({ earthing })}
        />
      )}
      {(outlets || circuit.clean_earth) && (
        <CleanEarthFields earth={circuit.clean_earth} onChange={(clean_earth) => change({ clean_earth })} />
      )}
    </Part>
  );
}

/** A protective conductor of the outlets alone: its size, where it ends, and whether the outlets are marked. */
function CleanEarthFields({
  earth,
  onChange,
}: {
  earth: CleanEarth | null | undefined;
  onChange: (earth: CleanEarth | null) => void;
}) {
  const { rules } = useJob();
  const set = (part: Partial<CleanEarth>) => earth && onChange({ ...earth, ...part });
  return (
    <div className="mt-3 grid items-start gap-3 sm:grid-cols-4">
      <Check checked={Boolean(earth)} onChange={(clean) => onChange(clean ? {} : null)}>
        {t("web.circuit.earth.clean")}
      </Check>
      {earth && (
        <>
          <SizeChoice
            label={t("web.circuit.earth.clean_size")}
            value={earth.area_mm2}
            onCommit={(area_mm2) => set({ area_mm2 })}
          />
          <Choice
            label={t("web.circuit.earth.clean_end")}
            value={earth.ends_at ?? ""}
            options={[
              { value: "", label: t("web.common.not_known") },
              { value: "board", label: t("web.circuit.earth.clean_board") },
              {
                value: "main-earth",
                label: capital(rules.vocabulary.main_earth ?? t("web.circuit.earth.clean_main")),
              },
            ]}
            onCommit={(end) => set({ ends_at: (end || null) as CleanEarth["ends_at"] })}
          />
          <Choice
            label={t("web.circuit.earth.clean_marked")}
            value={yesNo(earth.marked)}
            options={YES_NO}
            onCommit={(answer) => set({ marked: fromYesNo(answer) })}
          />
        </>
      )}
    </div>
  );
}
