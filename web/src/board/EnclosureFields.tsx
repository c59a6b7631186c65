import type { Board, BoardBuild, Enclosure } from "../api/client";
import { Check } from "../ui/Check";
import { Choice, FigureField } from "../ui/Field";

const OWN: Enclosure = {
  title: "An enclosure of your own",
  form: "rail",
  rows: 1,
  modules: 12,
  material: "metal",
  bars: "apart",
  bar_places: 24,
  entries: ["top", "bottom"],
  blanks: true,
};

/** The measures of the enclosure in hand, each of them open to change. */
export function EnclosureFields({
  board,
  onChange,
}: {
  board: Board;
  onChange: (changed: Partial<BoardBuild>) => void;
}) {
  const held = board.housing.enclosure ?? OWN;
  const set = (changed: Partial<Enclosure>) =>
    onChange({ enclosure: { ...held, ...changed, title: ownTitle(held.title) } });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1">
      <FigureField
        label={held.form === "stab" ? "Columns" : "Rows"}
        unit=""
        required
        value={held.rows}
        onCommit={(rows) => rows && set({ rows: Math.round(rows) })}
      />
      <FigureField
        label={held.form === "stab" ? "Spaces a column" : "Modules a row"}
        unit=""
        required
        value={held.modules}
        onCommit={(modules) => modules && set({ modules: Math.round(modules) })}
      />
      <Choice
        label="Material"
        value={held.material}
        options={[
          { value: "metal", label: "metal" },
          { value: "moulded", label: "moulded" },
          { value: "wood", label: "wood" },
        ]}
        onCommit={(material) => set({ material: material as Enclosure["material"] })}
      />
      <Choice
        label="Bars"
        value={held.bars}
        options={[
          { value: "apart", label: "neutral at the top, earth below" },
          { value: "top", label: "both at the top" },
          { value: "bottom", label: "both at the bottom" },
        ]}
        onCommit={(bars) => set({ bars: bars as Enclosure["bars"] })}
      />
      <FigureField label="Width" unit="mm" value={held.width_mm} onCommit={(width_mm) => set({ width_mm })} />
      <FigureField
        label="Height"
        unit="mm"
        value={held.height_mm}
        onCommit={(height_mm) => set({ height_mm })}
      />
      <FigureField label="Depth" unit="mm" value={held.depth_mm} onCommit={(depth_mm) => set({ depth_mm })} />
      <FigureField
        label="Screws of a kind of bar"
        unit=""
        required
        value={held.bar_places}
        onCommit={(places) => places && set({ bar_places: Math.round(places) })}
      />
      <FigureField
        label="Gets rid of"
        unit="W"
        value={held.dissipates_w}
        empty="by its surface"
        onCommit={(dissipates_w) => set({ dissipates_w })}
      />
      <Check checked={held.blanks} onChange={(blanks) => set({ blanks })}>
        Every opening closed
      </Check>
    </div>
  );
}

function ownTitle(title: string): string {
  return title.endsWith(", changed") || title === OWN.title ? title : `${title}, changed`;
}
