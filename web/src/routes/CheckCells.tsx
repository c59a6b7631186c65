import { Link } from "react-router";
import { Gauge } from "../circuits";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";

/** What follows from a length, in the order it is read. */
const CHECKS = ["capacity", "voltage-drop", "disconnection"];

/** The checks of a circuit that its route weighs on, as the grid has them; each leads to its cell there. */
export function CheckCells({ circuit }: { circuit: string }) {
  const { assessment, rules, jobId, focus } = useJob();
  const findings = CHECKS.flatMap(
    (check) =>
      assessment?.findings.filter(
        ({ check: of, subject, verdict }) =>
          of === check && subject.id === circuit && verdict !== "not-applicable",
      ) ?? [],
  );
  return (
    <ul className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
      {findings.map((finding) => (
        <li key={finding.check} data-check={finding.check} data-verdict={finding.verdict} className="w-32">
          <Link
            to={`/jobs/${jobId}/circuits`}
            title={say(finding.sentence)}
            className="block rounded hover:bg-wash"
            onClick={() => focus({ circuit, check: finding.check })}
          >
            <span className="flex justify-between gap-2">
              <span>{rules.checks.find(({ id }) => id === finding.check)?.short ?? finding.check}</span>
              <span className="figure">{`${finding.shown_value} ${finding.unit}`}</span>
            </span>
            <Gauge verdict={finding.verdict} margin={finding.margin} />
          </Link>
        </li>
      ))}
    </ul>
  );
}
