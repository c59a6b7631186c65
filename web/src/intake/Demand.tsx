import { useEffect } from "react";
import { useJob } from "../job/JobProvider";
import { Answer } from "../lattice";
import { Card } from "./Card";

/** Whether the supply is enough for everything together, with the sum. */
export function Demand() {
  const { assessment, rules, focus } = useJob();
  const check = rules.supply_checks[0];
  useEffect(() => focus({ check: check?.id ?? "", circuit: "supply" }), [focus, check]);
  const finding = assessment?.findings.find(
    (found) => found.subject.kind === "supply" && found.check === check?.id,
  );
  return (
    <Card title={check?.question ?? ""}>
      {finding ? (
        <Answer finding={finding} onTake={() => undefined} />
      ) : (
        <p className="text-soft">Working it out …</p>
      )}
    </Card>
  );
}
