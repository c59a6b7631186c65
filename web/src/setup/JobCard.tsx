import { Link } from "react-router";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Field, TextBox } from "../ui/Field";
import { Card } from "./Card";
import { Colours } from "./Colours";

/** Whose job it is, and by which rules. */
export function JobCard() {
  const { document, rules, edit } = useJob();
  return (
    <Card title={t("web.setup.job.title")}>
      <div className="grid gap-3 sm:grid-cols-2">
        {(["title", "client", "site"] as const).map((name) => (
          <Field
            key={name}
            label={
              {
                title: t("web.setup.job.name"),
                client: t("web.setup.job.client"),
                site: t("web.setup.job.site"),
              }[name]
            }
          >
            {(id) => (
              <TextBox
                id={id}
                value={document.job[name] ?? ""}
                maxLength={name === "site" ? 240 : 120}
                onCommit={(text) =>
                  (name !== "title" || text.trim()) &&
                  edit({ ...document, job: { ...document.job, [name]: text } })
                }
              />
            )}
          </Field>
        ))}
        <p className="self-end text-[13px] text-soft">
          {t("web.setup.job.rules", { edition: rules.edition, country: rules.title.split(",")[0] ?? "" })}{" "}
          <Link to="/standards" className="text-accent underline">
            {t("web.setup.job.all_standards")}
          </Link>
          <Colours />
        </p>
      </div>
    </Card>
  );
}
