import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { OtherRoute, PlannedCircuit } from "../api/client";
import { otherRoutesQuery } from "../api/queries";
import { verdictWord } from "../circuits";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { metres, named, SHAPES, WAYS } from "./planNames";

/** Which other route of a circuit would pass: asked for by a button, as every one is worked out whole. */
export function OtherRoutes({
  circuit,
  onTake,
}: {
  circuit: PlannedCircuit;
  onTake: (route: OtherRoute) => void;
}) {
  const { document, version } = useJob();
  const [asked, setAsked] = useState(-1);
  const found = useQuery({
    ...otherRoutesQuery(document, version, circuit.id),
    enabled: asked === version,
  });
  const label = (texts: Parameters<typeof named>[0], value: string) =>
    named(texts).find((each) => each.value === value)?.label ?? value;
  if (asked !== version)
    return <Button onClick={() => setAsked(version)}>{t("web.routes.other_routes")}</Button>;
  if (!found.data) return <p className="text-soft">{found.error?.message ?? t("web.routes.trying")}</p>;
  const passing = found.data.filter(({ passes, current }) => passes && !current);
  if (passing.length === 0) return <p className="text-soft">{t("web.routes.none_passes")}</p>;
  return (
    <ul aria-label={t("web.routes.other_routes")} data-other-routes={circuit.id}>
      {passing.slice(0, 6).map((route) => (
        <li
          key={`${route.way} ${route.shape} ${route.apart}`}
          className="flex flex-wrap items-baseline gap-x-3"
        >
          <span>
            {[label(SHAPES, route.shape), label(WAYS, route.way), route.apart && t("web.routes.apart_yes")]
              .filter(Boolean)
              .join(", ")}
          </span>
          <span className="figure">{metres(route.length_m)} m</span>
          <span className="text-soft">{verdictWord(route.verdict)}</span>
          <Button onClick={() => onTake(route)}>{t("web.routes.take_route")}</Button>
        </li>
      ))}
      {found.data.some(({ passes, current }) => current && passes) && (
        <li className="text-soft">{t("web.routes.passes_now")}</li>
      )}
    </ul>
  );
}
