import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Choice } from "../ui/Field";

/** The size of a conductor, by the standard's names of sizes; a size out of the list stays what it is. */
export function SizeChoice({
  label,
  value,
  empty = t("web.setup.size_unknown"),
  onCommit,
}: {
  label: string;
  value: number | null | undefined;
  empty?: string;
  onCommit: (area_mm2: number | null) => void;
}) {
  const { rules } = useJob();
  const known = rules.sizes.map((size) => ({ value: String(size.area_mm2), label: size.label }));
  const typed = value ? String(value) : "";
  const odd =
    typed && !known.some((size) => size.value === typed)
      ? [{ value: typed, label: t("web.setup.size_option", { own: typed }) }]
      : [];
  return (
    <Choice
      label={`${label} [${rules.size_unit}]`}
      value={typed}
      options={[{ value: "", label: empty }, ...odd, ...known]}
      onCommit={(text) => onCommit(text ? Number(text) : null)}
    />
  );
}
