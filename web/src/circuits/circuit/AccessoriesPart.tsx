import { Trash2 } from "lucide-react";
import type { Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { t } from "../../messages/text";
import { Button } from "../../ui/Button";
import { Choice, Field, TextBox } from "../../ui/Field";
import { type Change, Part } from "./Part";
import { PositionPart } from "./PositionPart";

type Accessory = NonNullable<Circuit["accessories"]>[number];

const KINDS: { value: Accessory["kind"]; label: string }[] = [
  {
    value: "switch",
    get label() {
      return t("web.circuit.accessories.switch");
    },
  },
  {
    value: "pull-cord",
    get label() {
      return t("web.circuit.accessories.pull_cord");
    },
  },
  {
    value: "junction-box",
    get label() {
      return t("web.circuit.accessories.junction_box");
    },
  },
];

/** Switches and boxes of the circuit that stand in a room with zones: stated, they are judged as what it feeds is. */
export function AccessoriesPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { document } = useJob();
  const list = circuit.accessories ?? [];
  const put = (accessories: Accessory[]) => change({ accessories });
  const set = (at: number, part: Partial<Accessory>) =>
    put(list.map((accessory, index) => (index === at ? { ...accessory, ...part } : accessory)));
  return (
    <Part title={t("web.circuit.accessories.title")}>
      {list.map((accessory, at) => (
        <div key={at} className="mb-2">
          <div className="grid items-start gap-2 sm:grid-cols-[1fr_10rem_10rem_2rem]">
            <Field label={t("web.circuit.name")}>
              {(field) => (
                <TextBox
                  id={field}
                  value={accessory.name}
                  maxLength={120}
                  onCommit={(name) => name.trim() && set(at, { name: name.trim() })}
                />
              )}
            </Field>
            <Choice
              label={t("web.circuit.kind_label")}
              value={accessory.kind}
              options={KINDS}
              onCommit={(kind) => set(at, { kind: kind as Accessory["kind"] })}
            />
            <Choice
              label={t("web.circuit.loads.room")}
              value={accessory.room ?? ""}
              options={[
                { value: "", label: "–" },
                ...(document.rooms ?? []).map((room) => ({ value: room.id, label: room.name })),
              ]}
              onCommit={(room) => set(at, { room: room || null })}
            />
            <Button
              variant="quiet"
              className="mt-5"
              aria-label={t("web.circuit.loads.remove", { load: accessory.name })}
              onClick={() => put(list.filter((_, index) => index !== at))}
            >
              <Trash2 size={14} aria-hidden />
            </Button>
          </div>
          <PositionPart item={accessory} set={(part) => set(at, part)} />
        </div>
      ))}
      <div className="flex gap-2">
        {KINDS.map((kind) => (
          <Button
            key={kind.value}
            onClick={() => put([...list, { name: kind.label, kind: kind.value, room: null, position: null }])}
          >
            + {kind.label}
          </Button>
        ))}
      </div>
    </Part>
  );
}
