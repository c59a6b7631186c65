import { useJob } from "../job/JobContext";
import { type Key, t } from "../messages/text";
import { metres } from "./planNames";

const ABOVE: Record<string, Key> = {
  loft: "web.routes.above_loft",
  floor: "web.routes.above_floor",
  "flat-roof": "web.routes.above_flat_roof",
};
const JOISTS: Record<string, Key> = {
  x: "web.routes.joists_across",
  y: "web.routes.joists_along",
  none: "web.routes.joists_none",
};

/** How the floor that is shown is built, as far as it was stated. */
export function FloorNote({ level }: { level: number }) {
  const { document } = useJob();
  const floor = document.plan?.floors?.find((each) => each.level === level);
  if (!floor) return null;
  const parts = [
    t("web.routes.floor_void", { void: metres(floor.void_m ?? 0), under: metres(floor.under_m ?? 0) }),
    floor.joists && t(JOISTS[floor.joists] ?? "web.routes.joists_none"),
    floor.above && t(ABOVE[floor.above] ?? "web.routes.above_floor"),
    floor.insulation_mm != null && t("web.routes.floor_insulation", { mm: String(floor.insulation_mm) }),
  ];
  return (
    <p data-floor-note className="mt-1 text-[12.5px] text-soft">
      {parts.filter(Boolean).join(" · ")}
    </p>
  );
}
