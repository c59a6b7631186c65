import type { Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { t } from "../../messages/text";
import { LocalEarthingFields } from "../../setup/LocalEarthing";
import { type Change, Part } from "./Part";

/** An electrode of its own for the points of a circuit: a charging point, a caravan's outlet, anything outdoors. */
export function EarthPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { document } = useJob();
  const outdoors = new Set(
    (document.rooms ?? []).filter((room) => room.kind === "outdoors").map((room) => room.id),
  );
  const outside = circuit.loads?.some(
    (load) => load.kind === "charger" || (load.room && outdoors.has(load.room)),
  );
  if (circuit.kind === "distribution" || (!circuit.earthing && !outside)) return null;
  return (
    <Part title={t("web.circuit.earth.title")}>
      <LocalEarthingFields
        of="points"
        earthing={circuit.earthing}
        onChange={(earthing) => change({ earthing })}
      />
    </Part>
  );
}
