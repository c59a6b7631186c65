import { client, type Supply } from "../api/client";
import { SYSTEM } from "../assumptions/AssumptionList";
import { useJob } from "../job/JobContext";
import { useAnsweredEdit } from "../job/useAnsweredEdit";
import { t } from "../messages/text";
import { Choice, FigureField } from "../ui/Field";
import { Card } from "./Card";
import { CutOutFields } from "./CutOutFields";
import { PhasesChoice } from "./PhasesChoice";

const SOURCES = [
  {
    value: "",
    get label() {
      return t("web.setup.source.none");
    },
  },
  {
    value: "measured",
    get label() {
      return t("web.setup.source.measured");
    },
  },
  {
    value: "enquiry",
    get label() {
      return t("web.setup.source.enquiry");
    },
  },
  {
    value: "declared",
    get label() {
      return t("web.setup.source.declared");
    },
  },
];

/** What arrives: earthing arrangement, Ze, fault currents, cut-out. Each missing value says who can supply it. */
export function SupplyCard() {
  const { document, assessment, rules, edit } = useJob();
  const answeredEdit = useAnsweredEdit();
  const { supply } = document;
  const set = (part: Partial<Supply>) => edit({ ...document, supply: { ...supply, ...part } });
  // What was assumed for another system is assumed again for this one.
  const answerSystem = (system: Supply["system"]) =>
    answeredEdit(client.POST("/api/assumptions/system", { body: { document, system } }));
  const asked = assessment?.assumptions.some((assumed) => assumed.field === SYSTEM);
  const declared = rules.declared_ze_ohm[supply.system];
  return (
    <Card title={t("web.setup.supply.title")}>
      <div className="grid gap-3 sm:grid-cols-3">
        <Choice
          label={t("web.setup.supply.system")}
          value={asked ? "" : (supply.system ?? "")}
          options={[
            ...(asked ? [{ value: "", label: t("web.common.not_known") }] : []),
            ...rules.systems.map((system) => ({ value: system.id, label: system.title })),
          ]}
          onCommit={(system) => void answerSystem(system as Supply["system"])}
          hint={t("web.setup.supply.system_hint")}
        />
        <FigureField
          label={t("web.setup.supply.ze")}
          unit="Ω"
          value={supply.ze_ohm}
          onCommit={(ze_ohm) => set({ ze_ohm })}
          hint={
            declared
              ? t("web.setup.supply.ze_hint_declared", { declared, system: supply.system ?? "" })
              : t("web.setup.supply.ze_hint")
          }
        />
        <Choice
          label={t("web.setup.supply.ze_source")}
          value={supply.ze_source ?? ""}
          options={SOURCES}
          onCommit={(source) => set({ ze_source: (source || null) as Supply["ze_source"] })}
        />
        <PhasesChoice />
        <FigureField
          label={t("web.setup.supply.fault")}
          unit="kA"
          value={supply.fault_current_ka}
          onCommit={(fault_current_ka) => set({ fault_current_ka })}
          hint={t("web.setup.supply.fault_hint")}
        />
        <Choice
          label={t("web.setup.supply.fault_source")}
          value={supply.fault_current_source ?? ""}
          options={SOURCES}
          onCommit={(source) =>
            set({ fault_current_source: (source || null) as Supply["fault_current_source"] })
          }
        />
        {(supply.phases ?? 1) > 1 && (
          <FigureField
            label={t("web.setup.supply.fault_lines")}
            unit="kA"
            value={supply.fault_current_lines_ka}
            empty={
              supply.phases === 3
                ? t("web.setup.supply.fault_lines_twice")
                : t("web.setup.supply.fault_lines_same")
            }
            hint={t("web.setup.supply.fault_lines_hint")}
            onCommit={(fault_current_lines_ka) => set({ fault_current_lines_ka })}
          />
        )}
        <CutOutFields supply={supply} set={set} />
      </div>
    </Card>
  );
}
