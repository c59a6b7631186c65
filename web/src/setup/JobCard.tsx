import { Link } from "react-router";
import { useJob } from "../job/JobContext";
import { Field, TextBox } from "../ui/Field";
import { Card } from "./Card";
import { Colours } from "./Colours";

/** Whose job it is, and by which rules. */
export function JobCard() {
  const { document, rules, edit } = useJob();
  return (
    <Card title="The job">
      <div className="grid gap-3 sm:grid-cols-2">
        {(["title", "client", "site"] as const).map((name) => (
          <Field key={name} label={{ title: "Title", client: "Client", site: "Site" }[name]}>
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
          Rules: {rules.edition}, {rules.title.split(",")[0]}.{" "}
          <Link to="/standards" className="text-accent underline">
            All standards
          </Link>
          <Colours />
        </p>
      </div>
    </Card>
  );
}
