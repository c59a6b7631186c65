import type { Board } from "../api/client";
import { useJob } from "../job/JobContext";
import { withBoard } from "../job/jobModel";
import { t } from "../messages/text";
import { fromYesNo, YES_NO, yesNo } from "../ui/Check";
import { Choice, FigureField } from "../ui/Field";

type Tap = NonNullable<Board["tap"]>;
const SIZES = () =>
  [
    ["line_mm2", t("web.board.build.tap.line")],
    ["neutral_mm2", t("web.board.build.tap.neutral")],
    ["earth_mm2", t("web.board.build.tap.earth")],
  ] as const;

/** The feed of a board that stays on with the main switch off: its own device, conductors, length and labels. */
export function UpstreamFeed({ board }: { board: Board }) {
  const { document, rules, edit } = useJob();
  const tap: Tap = board.tap ?? {};
  const set = (changed: Partial<Tap>) => edit(withBoard(document, { ...board, tap: { ...tap, ...changed } }));
  const kind = rules.devices.find((device) => device.id === tap.device?.kind);
  const withKind = (id: string): Tap["device"] => {
    const usual = rules.devices.find((device) => device.id === id);
    if (!usual) return null;
    return { kind: id, curve: usual.usual_curve ?? null, rating_a: tap.device?.rating_a ?? 63 };
  };
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1">
      <Choice
        label={t("web.board.build.tap.device")}
        value={tap.device?.kind ?? ""}
        options={[
          { value: "", label: "none" },
          ...rules.devices.map((device) => ({ value: device.id, label: device.title })),
        ]}
        onCommit={(id) => set({ device: withKind(id) })}
      />
      {tap.device && kind && kind.curves.length > 0 && (
        <Choice
          label={t("web.board.build.tap.curve")}
          value={tap.device.curve ?? ""}
          options={[
            { value: "", label: t("web.board.build.tap.curve_unknown") },
            ...kind.curves.map((curve) => ({ value: curve, label: curve })),
          ]}
          onCommit={(curve) =>
            tap.device && set({ device: { ...tap.device, curve: (curve || null) as "B" } })
          }
        />
      )}
      <FigureField
        label={t("web.board.build.tap.rating")}
        unit="A"
        value={tap.device?.rating_a}
        onCommit={(rating_a) => tap.device && rating_a && set({ device: { ...tap.device, rating_a } })}
      />
      <FigureField
        label={t("web.board.build.tap.breaking")}
        unit="kA"
        value={tap.breaking_ka}
        onCommit={(breaking_ka) => set({ breaking_ka })}
      />
      {SIZES().map(([field, label]) => (
        <FigureField
          key={field}
          label={label}
          unit="mm²"
          value={tap[field]}
          onCommit={(value) => set({ [field]: value })}
        />
      ))}
      <FigureField
        label={t("web.board.build.tap.length")}
        unit="m"
        value={tap.length_m}
        onCommit={(length_m) => set({ length_m })}
      />
      <Choice
        label={t("web.board.build.tap.labelled")}
        value={yesNo(tap.labelled)}
        options={YES_NO}
        onCommit={(value) => set({ labelled: fromYesNo(value) })}
      />
    </div>
  );
}
