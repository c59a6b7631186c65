import type { Board } from "../api/client";
import { useJob } from "../job/JobContext";
import { withBoard } from "../job/jobModel";
import { fromYesNo, YES_NO, yesNo } from "../ui/Check";
import { Choice, FigureField } from "../ui/Field";

type Tap = NonNullable<Board["tap"]>;
const SIZES = [
  ["line_mm2", "Lines"],
  ["neutral_mm2", "Neutral"],
  ["earth_mm2", "Earth"],
] as const;

/** The feed of a board that stays on with the main switch off: its own device, conductors, length and labels. */
export function UpstreamFeed({ board }: { board: Board }) {
  const { document, rules, edit } = useJob();
  const held: Tap = board.tap ?? {};
  const set = (changed: Partial<Tap>) =>
    edit(withBoard(document, { ...board, tap: { ...held, ...changed } }));
  const kind = rules.devices.find((one) => one.id === held.device?.kind);
  const withKind = (id: string): Tap["device"] => {
    const usual = rules.devices.find((one) => one.id === id);
    if (!usual) return null;
    return { kind: id, curve: usual.usual_curve ?? null, rating_a: held.device?.rating_a ?? 63 };
  };
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1">
      <Choice
        label="Its own device"
        value={held.device?.kind ?? ""}
        options={[
          { value: "", label: "none" },
          ...rules.devices.map((one) => ({ value: one.id, label: one.title })),
        ]}
        onCommit={(id) => set({ device: withKind(id) })}
      />
      {held.device && kind && kind.curves.length > 0 && (
        <Choice
          label="Its characteristic"
          value={held.device.curve ?? ""}
          options={[
            { value: "", label: "not known" },
            ...kind.curves.map((one) => ({ value: one, label: one })),
          ]}
          onCommit={(curve) =>
            held.device && set({ device: { ...held.device, curve: (curve || null) as "B" } })
          }
        />
      )}
      <FigureField
        label="Its rating"
        unit="A"
        value={held.device?.rating_a}
        onCommit={(rating_a) => held.device && rating_a && set({ device: { ...held.device, rating_a } })}
      />
      <FigureField
        label="It breaks"
        unit="kA"
        value={held.breaking_ka}
        onCommit={(breaking_ka) => set({ breaking_ka })}
      />
      {SIZES.map(([field, label]) => (
        <FigureField
          key={field}
          label={label}
          unit="mm²"
          value={held[field]}
          onCommit={(value) => set({ [field]: value })}
        />
      ))}
      <FigureField label="Length" unit="m" value={held.length_m} onCommit={(length_m) => set({ length_m })} />
      <Choice
        label="Both boards say that it stays on"
        value={yesNo(held.labelled)}
        options={YES_NO}
        onCommit={(value) => set({ labelled: fromYesNo(value) })}
      />
    </div>
  );
}
