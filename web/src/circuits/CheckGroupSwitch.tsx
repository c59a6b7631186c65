import type { Assessment } from "../api/client";
import { useJob } from "../job/JobContext";
import { cx } from "../ui/cx";
import { FIGURE } from "./CheckCell";
import { checksOf, FACES, type Face, worstTrouble } from "./checkGroups";
import { VERDICT_MARKS } from "./gridModel";

/** Which face of the lattice is shown, with the worst that stands on each. The key p turns it over. */
export function CheckGroupSwitch({
  face,
  assessment,
  onFace,
}: {
  face: Face;
  assessment: Assessment | undefined;
  onFace: (face: Face) => void;
}) {
  const { rules } = useJob();
  return (
    <fieldset className="ml-auto flex shrink-0 rounded-md border border-line" title="Key p">
      <legend className="sr-only">Checks shown</legend>
      {FACES.map((one) => {
        const ids = new Set(checksOf(rules, one.face).map((check) => check.id));
        const trouble = worstTrouble(
          (assessment?.findings ?? []).filter(
            (finding) => finding.subject.kind === "circuit" && ids.has(finding.check),
          ),
        );
        return (
          <label
            key={one.face}
            className={cx(
              "cursor-pointer rounded-[5px] px-2 py-0.5 text-[12.5px] font-medium has-focus-visible:outline-2 has-focus-visible:outline-accent",
              face === one.face ? "bg-accent text-accent-ink" : "text-soft hover:text-ink",
            )}
          >
            <input
              type="radio"
              name="face"
              className="sr-only"
              checked={face === one.face}
              onChange={() => onFace(one.face)}
            />
            {one.title}
            {trouble && (
              <span className={cx("figure ml-1.5", face !== one.face && FIGURE[trouble.verdict])}>
                {VERDICT_MARKS[trouble.verdict]} {trouble.count}
              </span>
            )}
          </label>
        );
      })}
    </fieldset>
  );
}
