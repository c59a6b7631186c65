import { Trash2 } from "lucide-react";
import type { Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { circuitById, withCircuits } from "../../job/jobModel";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { Choice, Field, FigureField, TextBox } from "../../ui/Field";
import { AccessoriesPart } from "./AccessoriesPart";
import { CablePart } from "./CablePart";
import { DevicePart } from "./DevicePart";
import { LinesPart } from "./LinesPart";
import { LoadsPart } from "./LoadsPart";
import type { Change } from "./Part";
import { PlacePart } from "./PlacePart";
import { RunPart } from "./RunPart";
import { SpursPart } from "./SpursPart";

const KINDS = [
  { value: "ring", label: "Ring" },
  { value: "radial", label: "Radial, sockets" },
  { value: "lighting", label: "Lighting" },
  { value: "fixed", label: "Fixed appliance" },
  { value: "distribution", label: "Distribution, to another board" },
  { value: "control", label: "Control circuit" },
];

/** Everything a circuit is made of. Each change is assessed and kept as it is made. */
export function CircuitDialog({
  id,
  onClose,
  onRemove,
}: {
  id: string;
  onClose: () => void;
  onRemove: () => void;
}) {
  const { document, rules, edit, message } = useJob();
  const circuit = circuitById(document, id);
  if (!circuit) return null;
  const change: Change = (part) => edit(withCircuits(document, [{ ...circuit, ...part }]));
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={circuit.name}
      description="Each change counts at once; undo takes it back."
      wide
    >
      {message && (
        <p role="alert" className="mb-2 text-[13px] text-fail">
          {message}
        </p>
      )}
      <div className="grid gap-3 sm:grid-cols-4">
        <Field label="Name">
          {(field) => (
            <TextBox
              id={field}
              value={circuit.name}
              maxLength={120}
              onCommit={(name) => name.trim() && change({ name: name.trim() })}
            />
          )}
        </Field>
        <Choice
          label="Kind"
          value={circuit.kind}
          options={KINDS.filter((kind) => kind.value !== "ring" || rules.rings)}
          onCommit={(kind) => change({ kind: kind as Circuit["kind"] })}
        />
        <PlacePart circuit={circuit} />
        <FigureField
          label="Design current"
          unit="A"
          value={circuit.design_current_a}
          empty="by loads"
          hint="Stated, it takes the place of the loads."
          onCommit={(design_current_a) => change({ design_current_a })}
        />
        <FigureField
          label="Leakage measured"
          unit="mA"
          value={circuit.leakage_ma}
          empty="estimated"
          hint="With all its loads on, by clamp."
          onCommit={(leakage_ma) => change({ leakage_ma })}
        />
      </div>
      <LinesPart circuit={circuit} change={change} />
      <DevicePart circuit={circuit} change={change} />
      <CablePart circuit={circuit} change={change} />
      <RunPart circuit={circuit} change={change} />
      <LoadsPart circuit={circuit} change={change} />
      <SpursPart circuit={circuit} change={change} />
      <AccessoriesPart circuit={circuit} change={change} />
      <div className="mt-5 flex justify-between">
        <Button
          onClick={() => {
            onRemove();
            onClose();
          }}
        >
          <Trash2 size={14} aria-hidden /> Take the circuit out
        </Button>
        <Button variant="strong" onClick={onClose}>
          Done
        </Button>
      </div>
    </Dialog>
  );
}
