import type { PlanPoint } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Select } from "../ui/Select";

/** The point that is selected: its circuit, and a way to remove it. */
export function PointPanel({
  point,
  onCircuit,
  onRemove,
}: {
  point: PlanPoint;
  onCircuit: (id: string) => void;
  onRemove: () => void;
}) {
  const { document } = useJob();
  return (
    <section
      aria-label={t("web.routes.point")}
      className="mt-2 flex flex-wrap items-center gap-3 text-[12.5px]"
    >
      <strong className="font-semibold">{point.name}</strong>
      <Select
        aria-label={t("web.routes.point_circuit", { point: point.name })}
        value={point.circuit ?? ""}
        options={[
          { value: "", label: t("web.routes.no_circuit") },
          ...(document.circuits ?? []).map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onCommit={onCircuit}
      />
      <Button onClick={onRemove}>{t("web.routes.remove")}</Button>
      <span className="text-soft">{t("web.routes.point_hint")}</span>
    </section>
  );
}
