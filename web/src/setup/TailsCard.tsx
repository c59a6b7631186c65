import type { Supply } from "../api/client";
import { Answer } from "../circuits";
import { useJob } from "../job/JobContext";
import { Choice, FigureField } from "../ui/Field";
import { Card } from "./Card";

type Tails = NonNullable<Supply["tails"]>;

/** The tails between the meter and the first board: size, length, material, a device of their own, and whether they are protected. */
export function TailsCard() {
  const { document, rules, edit, assessment } = useJob();
  const { supply } = document;
  const { tails } = supply;
  const put = (changed: Tails | null) => edit({ ...document, supply: { ...supply, tails: changed } });
  const set = (part: Partial<Tails>) => tails && put({ ...tails, ...part });
  const kinds = rules.devices.filter((known) => rules.cut_outs.includes(known.id));
  const kind = kinds.find((known) => known.id === tails?.device?.kind);
  const finding = assessment?.findings.find((finding) => finding.check === "tails");
  return (
    <Card title="Tails">
      <div className="grid gap-3 sm:grid-cols-3">
        <Choice
          label={`Tails [${rules.size_unit}]`}
          value={tails ? String(tails.area_mm2) : ""}
          options={[
            { value: "", label: "none: the board is at the origin" },
            ...rules.tails_sizes.map((size) => ({ value: String(size.area_mm2), label: size.label })),
          ]}
          onCommit={(area) => put(area ? { ...tails, area_mm2: Number(area) } : null)}
        />
        {tails && (
          <>
            <FigureField
              label="Length of the tails"
              unit="m"
              value={tails.length_m}
              onCommit={(length_m) => set({ length_m })}
            />
            <Choice
              label="Material of the tails"
              value={tails.material ?? ""}
              options={[
                { value: "", label: "not known" },
                { value: "copper", label: "copper" },
                { value: "aluminium", label: "aluminium" },
              ]}
              onCommit={(material) => set({ material: (material || null) as Tails["material"] })}
            />
            <Choice
              label="Protected beside the meter by"
              value={tails.device?.kind ?? ""}
              options={[
                { value: "", label: `nothing but the ${rules.vocabulary.origin ?? "cut-out"}` },
                ...kinds.map((known) => ({ value: known.id, label: `${known.standard}, ${known.title}` })),
              ]}
              onCommit={(id) => {
                const rating_a = kinds.find((known) => known.id === id)?.ratings_a.at(-1);
                set({ device: id && rating_a ? { kind: id, rating_a } : null });
              }}
            />
            {tails.device && kind && (
              <Choice
                label="Its rating [A]"
                value={String(tails.device.rating_a)}
                options={kind.ratings_a.map((rating) => ({ value: String(rating), label: String(rating) }))}
                onCommit={(rating) =>
                  tails.device && set({ device: { ...tails.device, rating_a: Number(rating) } })
                }
              />
            )}
          </>
        )}
      </div>
      {finding && (
        <div className="mt-3">
          <Answer finding={finding} />
        </div>
      )}
    </Card>
  );
}
