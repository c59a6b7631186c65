import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Check } from "../ui/Check";
import { FigureField } from "../ui/Field";
import { Card } from "./Card";
import { RuleChoices } from "./RuleChoices";

const DROP_LIMITS = [
  {
    name: "lighting_drop_limit_pct",
    get label() {
      return t("web.setup.options.limit_lighting");
    },
  },
  {
    name: "other_drop_limit_pct",
    get label() {
      return t("web.setup.options.limit_other");
    },
  },
] as const;

/** What the rules leave to the designer. */
export function RulesCard() {
  const { document, edit } = useJob();
  const { settings } = document;
  return (
    <Card title={t("web.setup.options.title")}>
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
          {t("web.setup.options.drop_ct")}
          <span className="block text-soft">{t("web.setup.options.drop_ct_off")}</span>
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
            empty={t("web.setup.options.limit_empty")}
            hint={t("web.setup.options.limit_hint")}
            onCommit={(limit) => edit({ ...document, settings: { ...settings, [name]: limit } })}
          />
        ))}
      </div>
    </Card>
  );
}
