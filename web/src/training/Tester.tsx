import { useState } from "react";
import type { Act, PlayView } from "../api/client";
import { type Key, t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";
import { options } from "./options";

type Connect = Extract<Act, { act: "connect" }>;
const FUNCTIONS: Record<Connect["function"], Key> = {
  continuity: "web.training.function.continuity",
  insulation: "web.training.function.insulation",
  loop: "web.training.function.loop",
  voltage: "web.training.function.voltage",
  "rcd-half": "web.training.function.rcd_half",
  "rcd-1": "web.training.function.rcd_1",
  "rcd-5": "web.training.function.rcd_5",
  "rcd-ramp": "web.training.function.rcd_ramp",
};
const POINTS: Record<Connect["first"], Key> = {
  line: "web.training.point.line",
  neutral: "web.training.point.neutral",
  earth: "web.training.point.earth",
  "line-end": "web.training.point.line_end",
  "neutral-end": "web.training.point.neutral_end",
  "earth-end": "web.training.point.earth_end",
  "main-earth": "web.training.point.main_earth",
  "other-line": "web.training.point.other_line",
  ground: "web.training.point.ground",
};

/** Function, place and points of a test in words. */
export const leadsInWords = (leads: Pick<Connect, "function" | "first" | "second">) =>
  t("web.training.leads", {
    function: t(FUNCTIONS[leads.function]),
    first: t(POINTS[leads.first]),
    second: t(POINTS[leads.second]),
  });

/** The tester: its function, the circuit, where its two leads are; Read reads the display. */
export function Tester({ view, act }: { view: PlayView; act: (...acts: Act[]) => void }) {
  const [set, setSet] = useState<Connect>({
    act: "connect",
    function: "continuity",
    first: "line",
    second: "earth",
    at: view.circuits[0]?.id ?? "",
  });
  const change = (part: Partial<Connect>) => setSet({ ...set, ...part });
  return (
    <section aria-label={t("web.training.tester")} className="mb-3">
      <h2 className="font-semibold">{t("web.training.tester")}</h2>
      <div className="grid grid-cols-2 gap-2 max-sm:grid-cols-1">
        <Choice
          label={t("web.training.function")}
          value={set.function}
          options={options(FUNCTIONS)}
          onCommit={(value) => change({ function: value as Connect["function"] })}
        />
        <Choice
          label={t("web.training.at")}
          value={set.at ?? ""}
          options={[
            { value: "", label: t("web.training.supply") },
            ...view.circuits.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onCommit={(at) => change({ at })}
        />
        <Choice
          label={t("web.training.lead", { n: "1" })}
          value={set.first}
          options={options(POINTS)}
          onCommit={(value) => change({ first: value as Connect["first"] })}
        />
        <Choice
          label={t("web.training.lead", { n: "2" })}
          value={set.second}
          options={options(POINTS)}
          onCommit={(value) => change({ second: value as Connect["second"] })}
        />
      </div>
      <Button className="mt-2" variant="strong" onClick={() => act(set)}>
        {t("web.training.read_tester")}
      </Button>
    </section>
  );
}
