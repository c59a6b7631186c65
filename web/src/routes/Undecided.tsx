import type { PlanView } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { nameOf } from "./planNames";

/** Points without a circuit, by the circuit that would be entered for them. */
export function Undecided({
  undecided,
  onAdd,
}: {
  undecided: PlanView["undecided"];
  onAdd: (point: string) => void;
}) {
  const { document } = useJob();
  if (undecided.length === 0) return null;
  const lines = [...new Set(undecided.map(({ line }) => line))];
  return (
    <div className="mt-1 text-[12.5px] text-advice">
      <p>
        {t("web.routes.undecided", {
          points: undecided.map(({ point }) => nameOf(point, document)).join(", "),
        })}
      </p>
      <p className="mt-1 flex flex-wrap gap-1.5">
        {lines.map((line) => (
          <Button key={line} onClick={() => onAdd(undecided.find((each) => each.line === line)?.point ?? "")}>
            {t("web.routes.add_circuit", { line })}
          </Button>
        ))}
      </p>
    </div>
  );
}
