import type { Board, BoardBuild, Enclosure } from "../api/client";
import { t } from "../messages/text";
import { Check } from "../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";

const OWN: Enclosure = {
  get title() {
    return t("web.board.build.enclosure.own");
  },
  form: "rail",
  rows: 1,
  modules: 12,
  material: "metal",
  bar_position: "split",
  bar_terminals: 24,
  cable_entries: ["top", "bottom"],
  openings_closed: true,
};

/** The measures of the enclosure in hand, each of them open to change. */
export function EnclosureFields({
  board,
  onChange,
}: {
  board: Board;
  onChange: (changed: Partial<BoardBuild>) => void;
}) {
  const enclosure = board.build.enclosure ?? OWN;
  const set = (changed: Partial<Enclosure>) =>
    onChange({ enclosure: { ...enclosure, ...changed, title: ownTitle(enclosure.title) } });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1">
      <FigureField
        label={
          enclosure.form === "panelboard"
            ? t("web.board.build.enclosure.columns")
            : t("web.board.build.enclosure.rows")
        }
        unit=""
        required
        value={enclosure.rows}
        onCommit={(rows) => rows && set({ rows: Math.round(rows) })}
      />
      <FigureField
        label={
          enclosure.form === "panelboard"
            ? t("web.board.build.enclosure.spaces")
            : t("web.board.build.enclosure.modules")
        }
        unit=""
        required
        value={enclosure.modules}
        onCommit={(modules) => modules && set({ modules: Math.round(modules) })}
      />
      <Choice
        label={t("web.board.build.enclosure.material")}
        value={enclosure.material}
        options={[
          { value: "metal", label: "metal" },
          { value: "moulded", label: "moulded" },
          { value: "wood", label: "wood" },
        ]}
        onCommit={(material) => set({ material: material as Enclosure["material"] })}
      />
      <Choice
        label={t("web.board.build.enclosure.bars")}
        value={enclosure.bar_position}
        options={[
          { value: "split", label: t("web.board.build.enclosure.bars_apart") },
          { value: "top", label: t("web.board.build.enclosure.bars_top") },
          { value: "bottom", label: t("web.board.build.enclosure.bars_bottom") },
        ]}
        onCommit={(position) => set({ bar_position: position as Enclosure["bar_position"] })}
      />
      <FigureField
        label={t("web.board.build.enclosure.width")}
        unit="mm"
        value={enclosure.width_mm}
        onCommit={(width_mm) => set({ width_mm })}
      />
      <FigureField
        label={t("web.board.build.enclosure.height")}
        unit="mm"
        value={enclosure.height_mm}
        onCommit={(height_mm) => set({ height_mm })}
      />
      <FigureField
        label={t("web.board.build.enclosure.depth")}
        unit="mm"
        value={enclosure.depth_mm}
        onCommit={(depth_mm) => set({ depth_mm })}
      />
      <FigureField
        label={t("web.board.build.enclosure.bar_terminals")}
        unit=""
        required
        value={enclosure.bar_terminals}
        onCommit={(places) => places && set({ bar_terminals: Math.round(places) })}
      />
      {enclosure.form === "panelboard" && (
        <Field
          label={t("web.board.build.enclosure.tandem")}
          hint={t("web.board.build.enclosure.tandem_hint")}
        >
          {(id) => (
            <TextBox
              id={id}
              value={enclosure.tandem_spaces ?? ""}
              onCommit={(spaces) =>
                onChange({ enclosure: { ...enclosure, tandem_spaces: spaces.trim().toLowerCase() || null } })
              }
            />
          )}
        </Field>
      )}
      <FigureField
        label={t("web.board.build.enclosure.heat")}
        unit="W"
        value={enclosure.heat_dissipation_w}
        empty={t("web.board.build.enclosure.heat_empty")}
        onCommit={(heat_dissipation_w) => set({ heat_dissipation_w })}
      />
      <Check checked={enclosure.openings_closed} onChange={(openings_closed) => set({ openings_closed })}>
        {t("web.board.build.enclosure.closed")}
      </Check>
    </div>
  );
}

function ownTitle(title: string): string {
  return title.endsWith(", changed") || title === OWN.title
    ? title
    : t("web.board.build.enclosure.changed", { title: title });
}
