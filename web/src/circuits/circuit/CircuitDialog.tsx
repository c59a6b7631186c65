import { Trash2 } from "lucide-react";
import type { Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { circuitById, withCircuits } from "../../job/jobModel";
import { t } from "../../messages/text";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { Choice, Field, FigureField, TextBox } from "../../ui/Field";
import { AccessoriesPart } from "./AccessoriesPart";
import { CablePart } from "./CablePart";
import { DevicePart } from "./DevicePart";
import { EarthPart } from "./EarthPart";
import { LinesPart } from "./LinesPart";
import { LoadsPart } from "./LoadsPart";
import { LocalDevicesPart } from "./LocalDevicesPart";
import type { Change } from "./Part";
import { PlacePart } from "./PlacePart";
import { RunPart } from "./RunPart";
import { SourcePart } from "./SourcePart";
import { SpursPart } from "./SpursPart";

const KINDS = [
  {
    value: "ring",
    get label() {
      return t("web.circuit.kind.ring");
    },
  },
  {
    value: "radial",
    get label() {
      return t("web.circuit.kind.radial");
    },
  },
  {
    value: "lighting",
    get label() {
      return t("web.circuit.kind.lighting");
    },
  },
  {
    value: "fixed",
    get label() {
      return t("web.circuit.kind.fixed");
    },
  },
  {
    value: "distribution",
    get label() {
      return t("web.circuit.kind.distribution");
    },
  },
  {
    value: "control",
    get label() {
      return t("web.circuit.kind.control");
    },
  },
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
      description={t("web.circuit.text")}
      wide
    >
      {message && (
        <p role="alert" className="mb-2 text-[13px] text-fail">
          {message}
        </p>
      )}
      <div className="grid gap-3 sm:grid-cols-4">
        <Field label={t("web.circuit.name")}>
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
          label={t("web.circuit.kind_label")}
          value={circuit.kind}
          options={KINDS.filter((kind) => kind.value !== "ring" || rules.rings)}
          onCommit={(kind) => change({ kind: kind as Circuit["kind"] })}
        />
        <PlacePart circuit={circuit} />
        <FigureField
          label={t("web.circuit.design_current")}
          unit="A"
          value={circuit.design_current_a}
          empty={t("web.circuit.design_current_empty")}
          hint={t("web.circuit.design_current_hint")}
          onCommit={(design_current_a) => change({ design_current_a })}
        />
        <FigureField
          label={t("web.circuit.leakage")}
          unit="mA"
          value={circuit.leakage_ma}
          empty="estimated"
          hint={t("web.circuit.leakage_hint")}
          onCommit={(leakage_ma) => change({ leakage_ma })}
        />
      </div>
      <LinesPart circuit={circuit} change={change} />
      <DevicePart circuit={circuit} change={change} />
      <CablePart circuit={circuit} change={change} />
      <RunPart circuit={circuit} change={change} />
      <LoadsPart circuit={circuit} change={change} />
      <SpursPart circuit={circuit} change={change} />
      <LocalDevicesPart circuit={circuit} change={change} />
      <EarthPart circuit={circuit} change={change} />
      <SourcePart circuit={circuit} change={change} />
      <AccessoriesPart circuit={circuit} change={change} />
      <div className="mt-5 flex justify-between">
        <Button
          onClick={() => {
            onRemove();
            onClose();
          }}
        >
          <Trash2 size={14} aria-hidden /> {t("web.circuit.remove")}
        </Button>
        <Button variant="strong" onClick={onClose}>
          {t("web.circuit.done")}
        </Button>
      </div>
    </Dialog>
  );
}
