import type { Assessment } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { FIGURE } from "./CheckCell";
import { CHECK_GROUPS, type CheckGroup, checksOf, worstTrouble } from "./checkGroups";
import { VERDICT_MARKS } from "./gridModel";

/** Which group of checks the grid shows, with the worst result of each. The key p changes it. */
export function CheckGroupSwitch({
  group,
  assessment,
  onGroup,
}: {
  group: CheckGroup;
  assessment: Assessment | undefined;
  onGroup: (group: CheckGroup) => void;
}) {
  const { rules } = useJob();
  return (
    <fieldset
      className="ml-auto flex shrink-0 rounded-md border border-line"
      title={t("web.circuits.groups.hint")}
    >
      <legend className="sr-only">{t("web.circuits.groups.legend")}</legend>
      {CHECK_GROUPS.map((known) => {
        const ids = new Set(checksOf(rules, known.group).map((check) => check.id));
        const trouble = worstTrouble(
          (assessment?.findings ?? []).filter(
            (finding) => finding.subject.kind === "circuit" && ids.has(finding.check),
          ),
        );
        return (
          <label
            key={known.group}
            className={cx(
              "cursor-pointer rounded-[5px] px-2 py-0.5 text-[12.5px] font-medium has-focus-visible:outline-2 has-focus-visible:outline-accent",
              group === known.group ? "bg-accent text-accent-ink" : "text-soft hover:text-ink",
            )}
          >
            <input
              type="radio"
              name="check-group"
              className="sr-only"
              checked={group === known.group}
              onChange={() => onGroup(known.group)}
            />
            {known.title}
            {trouble && (
              <span className={cx("figure ml-1.5", group !== known.group && FIGURE[trouble.verdict])}>
                {VERDICT_MARKS[trouble.verdict]} {trouble.count}
              </span>
            )}
          </label>
        );
      })}
    </fieldset>
  );
}
