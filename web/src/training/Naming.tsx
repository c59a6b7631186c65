import { useState } from "react";
import type { Act, PlayView } from "../api/client";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";
import { options } from "./options";

const DANGERS = {
  now: "web.training.danger.now",
  soon: "web.training.danger.soon",
  hidden: "web.training.danger.hidden",
  none: "web.training.danger.none",
} as const;
type Danger = keyof typeof DANGERS;

/** What is wrong, where, and how dangerous it is; then the end of the attempt. */
export function Naming({ view, act }: { view: PlayView; act: (...acts: Act[]) => void }) {
  const [defect, setDefect] = useState(view.defects[0]?.id ?? "");
  const [circuit, setCircuit] = useState("");
  const [danger, setDanger] = useState<Danger>("soon");
  return (
    <section aria-label={t("web.training.naming")} className="mt-3">
      <h2 className="font-semibold">{t("web.training.naming")}</h2>
      <ul className="text-[13px]" data-testid="named">
        {view.named.map((each, number) => (
          <li key={`${each.name} ${number}`}>
            {each.name}, {each.circuit || t("web.training.whole")}
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-2 gap-2 max-sm:grid-cols-1">
        <Choice
          label={t("web.training.defect")}
          value={defect}
          options={view.defects.map(({ id, name }) => ({ value: id, label: name }))}
          onCommit={setDefect}
        />
        <Choice
          label={t("web.training.where")}
          value={circuit}
          options={[
            { value: "", label: t("web.training.whole") },
            ...view.circuits.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onCommit={setCircuit}
        />
        <Choice
          label={t("web.training.danger")}
          value={danger}
          options={options(DANGERS)}
          onCommit={(value) => setDanger(value as Danger)}
        />
        <div className="flex items-end gap-2">
          <Button onClick={() => act({ act: "name", defect, circuit, danger })}>
            {t("web.training.write_down")}
          </Button>
          <Button variant="strong" onClick={() => act({ act: "finish" })}>
            {t("web.training.finish")}
          </Button>
        </div>
      </div>
    </section>
  );
}
