import { Trash2 } from "lucide-react";
import type { Circuit, Load } from "../../api/client";
import { useJob } from "../../job/JobProvider";
import { Button } from "../../ui/Button";
import { Choice, Field, FigureField, TextBox } from "../../ui/Field";
import { type Change, Part } from "./Part";

/** What the circuit feeds. */
export function LoadsPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { document, rules } = useJob();
  const loads = circuit.loads ?? [];
  const rooms = document.rooms ?? [];
  const set = (at: number, part: Partial<Load>) =>
    change({ loads: loads.map((load, index) => (index === at ? { ...load, ...part } : load)) });
  return (
    <Part title="Loads">
      {loads.map((load, at) => (
        <div
          key={at}
          className="mb-3 grid items-start gap-2 sm:grid-cols-[1fr_7rem_4rem_6rem_5rem_8rem_2rem]"
        >
          <Field label="Name">
            {(field) => (
              <TextBox
                id={field}
                value={load.name}
                maxLength={120}
                onCommit={(name) => name.trim() && set(at, { name: name.trim() })}
              />
            )}
          </Field>
          <Choice
            label="Kind"
            value={load.kind}
            options={rules.loads.map(({ kind }) => ({ value: kind, label: kind }))}
            onCommit={(kind) => set(at, { kind: kind as Load["kind"] })}
          />
          <FigureField
            label="Count"
            unit=""
            required
            value={load.count ?? 1}
            onCommit={(count) => count && set(at, { count: Math.round(count) })}
          />
          <FigureField
            label="Power"
            unit="W"
            value={load.power_w}
            onCommit={(power_w) => set(at, { power_w })}
          />
          <FigureField
            label="cos φ"
            empty={rules.loads.find((known) => known.kind === load.kind)?.resistive ? "1" : "?"}
            unit=""
            value={load.power_factor}
            onCommit={(power_factor) => set(at, { power_factor })}
          />
          <Choice
            label="Room"
            value={load.room ?? ""}
            options={[
              { value: "", label: "–" },
              ...rooms.map((room) => ({ value: room.id, label: room.name })),
            ]}
            onCommit={(room) => set(at, { room: room || null })}
          />
          <Button
            look="quiet"
            className="mt-5"
            aria-label={`Take ${load.name} out`}
            onClick={() => change({ loads: loads.filter((_, index) => index !== at) })}
          >
            <Trash2 size={14} aria-hidden />
          </Button>
        </div>
      ))}
      <Button
        onClick={() =>
          change({ loads: [...loads, { name: "New load", kind: "appliance", count: 1, with_socket: false }] })
        }
      >
        Another load
      </Button>
    </Part>
  );
}
