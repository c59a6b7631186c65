import type { Supply } from "../api/client";
import { Answer } from "../circuits";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
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
    <Card title={t("web.setup.path.tails")}>
      <div className="grid gap-3 sm:grid-cols-3">
        <Choice
          label={`${t("web.setup.supply.tails")} [${rules.size_unit}]`}
          value={tails ? String(tails.area_mm2) : ""}
          options={[
            { value: "", label: t("web.setup.supply.tails_none") },
            ...rules.tails_sizes.map((size) => ({ value: String(size.area_mm2), label: size.label })),
          ]}
          onCommit={(area) => put(area ? { ...tails, area_mm2: Number(area) } : null)}
        />
        {tails && (
          <>
            <FigureField
              label={t("web.setup.supply.tails_length")}
              unit="m"
              value={tails.length_m}
              onCommit={(length_m) => set({ length_m })}
            />
            <Choice
              label={t("web.setup.supply.tails_material")}
              value={tails.material ?? ""}
              options={[
                { value: "", label: t("web.setup.supply.cutout_unknown") },
                { value: "copper", label: t("web.setup.calculated.copper") },
                { value: "aluminium", label: t("web.setup.calculated.aluminium") },
              ]}
              onCommit={(material) => set({ material: (material || null) as Tails["material"] })}
            />
            <Choice
              label={t("web.setup.supply.tails_device")}
              value={tails.device?.kind ?? ""}
              options={[
                { value: "", label: t("web.setup.supply.tails_device_none") },
                ...kinds.map((known) => ({ value: known.id, label: `${known.standard}, ${known.title}` })),
              ]}
              onCommit={(id) => {
                const rating_a = kinds.find((known) => known.id === id)?.ratings_a.at(-1);
                set({ device: id && rating_a ? { kind: id, rating_a } : null });
              }}
            />
            {tails.device && kind && (
              <Choice
                label={t("web.setup.supply.cutout_rating")}
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
