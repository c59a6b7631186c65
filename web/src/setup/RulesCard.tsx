import { useJob } from "../job/JobContext";
import { Check } from "../ui/Check";
import { FigureField } from "../ui/Field";
import { Card } from "./Card";
import { RuleChoices } from "./RuleChoices";

const DROP_LIMITS = [
  { name: "lighting_drop_limit_pct", label: "Own drop limit, lighting" },
  { name: "other_drop_limit_pct", label: "Own drop limit, other uses" },
] as const;

/** What the rules leave to the designer. */
export function RulesCard() {
  const { document, edit } = useJob();
  const { settings } = document;
  return (
    <Card title="Choices the rules leave open">
      <Check
        className="mb-3 flex items-start gap-2 text-[13px]"
        checked={settings?.drop_at_operating_temperature ?? false}
        onChange={(checked) =>
          edit({
            ...document,
            settings: { ...settings, drop_at_operating_temperature: checked },
          })
        }
      >
        <span>
          Correct voltage drop for conductors that run cooler than their limit (factor Ct).
          <span className="block text-soft">Off: the tabulated figure, on the safe side.</span>
        </span>
      </Check>
      <RuleChoices />
      <div className="grid gap-3 sm:grid-cols-3">
        {DROP_LIMITS.map(({ name, label }) => (
          <FigureField
            key={name}
            label={label}
            unit="%"
            value={settings?.[name]}
            empty="by the rules"
            hint="Only ever tighter than the rules."
            onCommit={(limit) => edit({ ...document, settings: { ...settings, [name]: limit } })}
          />
        ))}
      </div>
    </Card>
  );
}
