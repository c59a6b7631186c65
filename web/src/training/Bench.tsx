import { useState } from "react";
import type { Act, PlayView } from "../api/client";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";
import { BenchCircuit } from "./BenchCircuit";
import { Lever } from "./Lever";
import { options } from "./options";

type Do = (...acts: Act[]) => void;
type Detector = NonNullable<Extract<Act, { act: "prove-dead" }>["by"]>;
type ShortcutKind = Extract<Act, { act: "shortcut" }>["what"];

const DETECTORS: Record<Detector, Key> = {
  "two-pole": "web.training.detector.two_pole",
  "one-pole": "web.training.detector.one_pole",
  "non-contact": "web.training.detector.non_contact",
  multimeter: "web.training.detector.multimeter",
};
const SHORTCUTS: Record<ShortcutKind, Key> = {
  "rcd-out": "web.training.shortcut.rcd_out",
  "bigger-device": "web.training.shortcut.bigger_device",
  cutout: "web.training.shortcut.cutout",
  "voltage-by-touch": "web.training.shortcut.voltage_by_touch",
  "metal-for-earth": "web.training.shortcut.metal_for_earth",
  "wrong-category": "web.training.shortcut.wrong_category",
  "alone-live": "web.training.shortcut.alone_live",
};

/** The board and the house: each device with its lever and lock, each circuit drawn from it into the house, and what can be done. */
export function Bench({ view, act }: { view: PlayView; act: Do }) {
  const [chosen, setChosen] = useState(view.circuits[0]?.id ?? "");
  const [detector, setDetector] = useState<Detector>("two-pole");
  const groups = [...view.groups.map(({ id }) => id), ""];
  return (
    <section aria-label={t("web.training.bench")}>
      <div className="flex flex-col gap-2 rounded-lg border border-line bg-sheet p-2">
        <div className="flex items-center gap-2">
          <Lever
            device=""
            label={t("web.training.main")}
            off={view.main_off}
            tripped={false}
            locked={view.main_locked}
            act={act}
          />
          <span className="flex-1 font-medium">{t("web.training.main")}</span>
          <Button disabled={view.hints_left < 1} onClick={() => act({ act: "hint" })}>
            {t("web.training.hint", { n: view.hints_left })}
          </Button>
        </div>
        <div className="flex flex-wrap gap-1.5">
          <Button onClick={() => act({ act: "tell" })} aria-pressed={view.told}>
            {t(view.told ? "web.training.told" : "web.training.tell")}
          </Button>
          <Button onClick={() => act({ act: "prove-indicator" })} aria-pressed={view.indicator}>
            {t("web.training.prove_indicator")}
          </Button>
          <Button onClick={() => act({ act: "null" })} aria-pressed={view.nulled}>
            {t("web.training.null")}
          </Button>
          <Button
            onClick={() => act({ act: "earthing-conductor", off: !view.earth_off })}
            aria-pressed={view.earth_off}
          >
            {t(view.earth_off ? "web.training.earth_back" : "web.training.earth_off")}
          </Button>
        </div>
        <div className="grid grid-cols-2 gap-2">
          <Choice
            label={t("web.training.detector")}
            value={detector}
            options={options(DETECTORS)}
            onCommit={(value) => setDetector(value as Detector)}
          />
          <Choice
            label={t("web.training.shortcut")}
            value=""
            options={[{ value: "", label: t("web.training.shortcut.none") }, ...options(SHORTCUTS)]}
            onCommit={(what) => what && act({ act: "shortcut", what: what as ShortcutKind })}
          />
        </div>
      </div>
      {groups.map((group) => {
        const circuits = view.circuits.filter((circuit) => circuit.group === group);
        const shared = view.groups.find(({ id }) => id === group);
        return (
          circuits.length > 0 && (
            <div key={group} className={shared ? "mt-2 border-accent border-l-2 pl-1.5" : "mt-2"}>
              {shared && (
                <div data-group={group} className="mb-1.5 flex items-center gap-2">
                  <Lever
                    device={group}
                    label={say(shared.name)}
                    off={shared.off}
                    tripped={shared.tripped}
                    locked={shared.locked}
                    act={act}
                  />
                  <span className="font-medium">{say(shared.name)}</span>
                  <span className="figure text-[11.5px] text-soft">{shared.device}</span>
                </div>
              )}
              <ul className="flex flex-col gap-1.5">
                {circuits.map((circuit) => (
                  <BenchCircuit
                    key={circuit.id}
                    circuit={circuit}
                    chosen={circuit.id === chosen}
                    onChoose={() => setChosen(circuit.id === chosen ? "" : circuit.id)}
                    detector={detector}
                    links={view.leads_by_hand}
                    act={act}
                  />
                ))}
              </ul>
            </div>
          )
        );
      })}
    </section>
  );
}
