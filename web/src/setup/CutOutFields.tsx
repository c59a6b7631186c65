import type { Supply } from "../api/client";
import { useJob } from "../job/JobContext";
import { capital, t } from "../messages/text";
import { Choice } from "../ui/Field";

/** The distributor's fuse or breaker: its kind and rating. */
export function CutOutFields({ supply, set }: { supply: Supply; set: (part: Partial<Supply>) => void }) {
  const { rules } = useJob();
  const { cutout } = supply;
  const atOrigin = rules.devices.filter((kind) => rules.cut_outs.includes(kind.id));
  const cutoutKind = rules.devices.find((kind) => kind.id === cutout?.kind);
  return (
    <>
      <Choice
        label={capital(rules.vocabulary.origin ?? "cut-out")}
        value={cutout?.kind ?? ""}
        options={[
          { value: "", label: t("web.setup.supply.cutout_unknown") },
          ...atOrigin.map((kind) => ({
            value: kind.id,
            label: `${kind.standard}, ${kind.title}`,
          })),
        ]}
        onCommit={(kind) => set({ cutout: kind ? { kind, rating_a: cutout?.rating_a ?? 100 } : null })}
        hint={t("web.setup.supply.cutout_hint")}
      />
      {cutout && cutoutKind && (
        <Choice
          label={t("web.setup.supply.cutout_rating")}
          value={String(cutout.rating_a)}
          options={[...new Set([...cutoutKind.ratings_a, cutout.rating_a])]
            .sort((a, b) => a - b)
            .map((rating) => ({ value: String(rating), label: String(rating) }))}
          onCommit={(rating) => set({ cutout: { ...cutout, rating_a: Number(rating) } })}
        />
      )}
    </>
  );
}
