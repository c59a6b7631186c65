import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { type Attempt, answered, client, type PlayView } from "../api/client";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { figure } from "../readings/testModel";
import { Button } from "../ui/Button";
import { withUnit } from "./withUnit";

const PARTS = {
  safety: "web.training.score.safety",
  finding: "web.training.score.finding",
  evidence: "web.training.score.evidence",
  economy: "web.training.score.economy",
  order: "web.training.score.order",
  words: "web.training.score.words",
} as const satisfies Record<keyof PlayView["most"], Key>;

/** A text of the catalogue of defects as a sentence. */
const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1).replace(/\.$/, "")}.`;

/** The end of an attempt: what was unsafe, what each defect did, the points, and the shortest way. */
export function Ended({ view, attempt, learner }: { view: PlayView; attempt: Attempt; learner: string }) {
  const [wanted, setWanted] = useState(false);
  const [kept, setKept] = useState("");
  const queries = useQueryClient();
  useEffect(() => {
    if (!learner || !view.score) return;
    void answered(client.POST("/api/training/attempts", { body: { learner, attempt } }))
      .then(() => {
        setKept(t("web.training.kept", { learner }));
        for (const key of ["training-offer", "training-learner"])
          void queries.invalidateQueries({ queryKey: [key] });
      })
      .catch((error: Error) => setKept(error.message));
  }, [learner, attempt, view.score, queries]);
  const replay = useQuery({
    queryKey: ["training-replay", attempt],
    enabled: wanted,
    queryFn: async () => answered(client.POST("/api/training/replay", { body: attempt })),
  });
  return (
    <div className="grid gap-4 lg:grid-cols-2" data-testid="ended" data-passed={view.passed ?? false}>
      <section aria-label={t("web.training.score")}>
        <h2 className="font-semibold">
          {t(view.passed ? "web.training.passed" : "web.training.not_passed", { n: String(view.total ?? 0) })}
        </h2>
        {view.score && (
          <dl className="grid max-w-sm grid-cols-[1fr_auto] text-[13px]">
            {Object.entries(PARTS).map(([key, title]) => (
              <div key={key} className="contents">
                <dt className="border-b border-line/60 py-0.5">{t(title)}</dt>
                <dd data-part={key} className="figure border-b border-line/60 py-0.5 text-right">
                  {view.score?.[key as keyof typeof PARTS]} / {view.most[key as keyof typeof PARTS]}
                </dd>
              </div>
            ))}
          </dl>
        )}
        <p className="text-[12.5px] text-soft">{learner ? kept : t("web.training.no_learner")}</p>
        {view.stopped.length > 0 && (
          <>
            <h3 className="mt-2 font-semibold">{t("web.training.unsafe")}</h3>
            <ul className="text-[13px]">
              {view.stopped.map((each, number) => (
                <li key={`${each.act} ${number}`}>
                  <b className="text-fail">{each.what}.</b> {each.why}{" "}
                  <span className="text-soft">{t("web.training.right_way", { what: each.right })}</span>
                </li>
              ))}
            </ul>
          </>
        )}
      </section>
      <section aria-label={t("web.training.hidden")}>
        <h2 className="font-semibold">{t("web.training.hidden")}</h2>
        {view.revealed.length === 0 && <p>{t("web.training.sound")}</p>}
        <ul className="text-[13px]">
          {view.revealed.map((each) => (
            <li key={each.id + each.circuit} data-revealed={each.id} className="border-b border-line/60 py-1">
              <b>
                {each.named ? "✓" : "✗"} {each.name}
              </b>
              {each.circuit && `, ${each.circuit}`}
              <br />
              {t("web.training.shown_by", { tests: each.shown_by.map(say).join(", ") })}
              <br />
              <span className="text-soft">
                {t("web.training.seen", { text: sentence(each.seen) })}
                <br />
                {t("web.training.repair", { text: sentence(each.repair) })}
              </span>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label={t("web.training.replay")} className="lg:col-span-2">
        {!wanted && <Button onClick={() => setWanted(true)}>{t("web.training.replay")}</Button>}
        {replay.error && <p role="alert">{replay.error.message}</p>}
        {wanted && !replay.data && !replay.error && <p className="text-soft">{t("web.training.opening")}</p>}
        {replay.data?.length === 0 && <p>{t("web.training.no_tests")}</p>}
        {replay.data !== undefined && replay.data.length > 0 && (
          <table className="w-full text-[13px]" data-testid="replay">
            <thead>
              <tr className="text-left text-[12px] text-soft">
                <th className="font-medium">{t("web.training.replay.test")}</th>
                <th className="font-medium">{t("web.training.replay.reading")}</th>
                <th className="font-medium">{t("web.training.replay.expected")}</th>
                <th className="font-medium">{t("web.training.replay.expert")}</th>
              </tr>
            </thead>
            <tbody>
              {replay.data.map((step, number) => (
                <tr key={number} className="border-b border-line/60">
                  <td className="py-0.5 pr-2">
                    {say(step.of)}: <span className="text-soft">{say(step.title)}</span>
                  </td>
                  <td className={`figure pr-2 ${step.off ? "text-advice" : ""}`}>
                    {withUnit(step.reading, step.unit)}
                  </td>
                  <td className="figure pr-2">
                    {step.expected === null || step.expected === undefined ? "–" : figure(step.expected)}
                  </td>
                  <td>
                    {step.same ? "✓" : step.expert ? `${say(step.expert_of)}: ${say(step.expert)}` : "–"}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
    </div>
  );
}
