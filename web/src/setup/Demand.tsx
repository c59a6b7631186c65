import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Upgrade } from "../api/client";
import { upgradeQuery } from "../api/queries";
import { Answer } from "../circuits";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { fromYesNo, YES_NO, yesNo } from "../ui/Check";
import { CheckBox } from "../ui/CheckBox";
import { Choice, Field, FigureField } from "../ui/Field";
import { Card } from "./Card";

/** Whether the supply is enough for everything together, with the sum, and what a larger one would ask for. */
export function Demand() {
  const { assessment, document, rules, focus } = useJob();
  const check = rules.supply_checks[0];
  useEffect(() => focus({ check: check?.id ?? "", circuit: "supply" }), [focus, check]);
  const finding = assessment?.findings.find(
    (finding) => finding.subject.kind === "supply" && finding.check === check?.id,
  );
  return (
    <Card title={check?.question ?? ""}>
      {finding ? (
        <Answer finding={finding} otherWays>
          <Known />
          <Requested />
          {(["fail", "advice"].includes(finding.verdict) || document.supply.request) && <WaysOut />}
        </Answer>
      ) : (
        <p className="text-soft">{t("web.setup.demand.calculating")}</p>
      )}
    </Card>
  );
}

/** What takes the place of the estimate: a measured demand, or the main breaker that limits it. */
function Known() {
  const { document, rules, edit } = useJob();
  const demand = document.supply.demand;
  const put = (part: Partial<NonNullable<typeof demand>>) =>
    edit({ ...document, supply: { ...document.supply, demand: { ...demand, ...part } } });
  return (
    <div className="mt-2 grid gap-2 sm:grid-cols-3">
      <FigureField
        label={t("web.setup.demand.measured")}
        unit="A"
        value={demand?.measured_a}
        empty={t("web.setup.boards.none")}
        hint={t("web.setup.demand.measured_hint")}
        onCommit={(measured_a) => put({ measured_a })}
      />
      <FigureField
        label={t("web.setup.demand.measured_over")}
        unit="days"
        value={demand?.measured_days}
        empty="—"
        onCommit={(measured_days) => put({ measured_days })}
      />
      <FigureField
        label={t("web.setup.demand.management")}
        unit="A"
        value={demand?.management?.limit_a}
        empty={t("web.setup.boards.none")}
        hint={t("web.setup.demand.management_hint")}
        onCommit={(limit_a) => put({ management: limit_a ? { ...demand?.management, limit_a } : null })}
      />
      {demand?.management && (
        <FigureField
          label={t("web.setup.demand.fallback")}
          unit="A"
          value={demand.management.fallback_a}
          onCommit={(fallback_a) =>
            demand.management && put({ management: { ...demand.management, fallback_a } })
          }
        />
      )}
      {rules.demand_may_be_limited && (
        <FigureField
          label={t("web.setup.demand.limited")}
          unit="A"
          value={demand?.limited_a}
          empty={t("web.setup.boards.none")}
          hint={t("web.setup.demand.limited_hint")}
          onCommit={(limited_a) => put({ limited_a })}
        />
      )}
    </div>
  );
}

/** A larger supply that is requested of the distributor, and what it has to know of the present one. */
function Requested() {
  const { document, rules, edit } = useJob();
  const { supply } = document;
  const { request } = supply;
  const put = (part: Partial<typeof supply>) => edit({ ...document, supply: { ...supply, ...part } });
  return (
    <details className="mt-2" open={Boolean(request)}>
      <summary className="cursor-pointer text-[12px] text-accent">{t("web.setup.request.title")}</summary>
      <div className="mt-1 grid items-start gap-2 sm:grid-cols-3">
        <FigureField
          label={t("web.setup.request.rating")}
          unit="A"
          value={request?.rating_a}
          empty={t("web.setup.boards.none")}
          onCommit={(rating_a) => put({ request: rating_a ? { note: "", ...request, rating_a } : null })}
        />
        {request && (
          <>
            <Choice
              label={t("web.setup.request.phases")}
              value={request.phases ? String(request.phases) : ""}
              options={[
                { value: "", label: t("web.setup.request.as_now") },
                ...rules.supplies.map((each) => ({ value: String(each.phases), label: each.title })),
              ]}
              onCommit={(phases) =>
                put({ request: { ...request, phases: (Number(phases) || null) as typeof request.phases } })
              }
            />
            <Field label={t("web.setup.request.by")}>
              {(id) => (
                <input
                  id={id}
                  type="date"
                  className="figure h-8 rounded-md border border-line bg-sheet px-1 text-[13px]"
                  value={request.wanted_by ?? ""}
                  onChange={(event) =>
                    put({ request: { ...request, wanted_by: event.target.value || null } })
                  }
                />
              )}
            </Field>
          </>
        )}
        <FigureField
          label={t("web.setup.request.meter")}
          unit="A"
          value={supply.meter_a}
          onCommit={(meter_a) => put({ meter_a })}
        />
        {rules.looped_services && (
          <Choice
            label={t("web.setup.request.looped")}
            value={yesNo(supply.looped)}
            options={YES_NO}
            onCommit={(value) => put({ looped: fromYesNo(value) })}
          />
        )}
      </div>
    </details>
  );
}

/** The ways out of a demand over the supply, in order; and what a larger service requires. */
function WaysOut() {
  const { document, version, settled } = useJob();
  const upgrade = useQuery(upgradeQuery(document, version, settled)).data;
  if (!upgrade) return null;
  return (
    <>
      <section aria-label={t("web.setup.demand.ways_out")} data-testid="ways-out" className="mt-2">
        <h3 className="mb-1 text-[12px] font-semibold text-soft">{t("web.setup.demand.ways_out")}</h3>
        <ol className="flex list-decimal flex-col gap-1 pl-5 text-[13px]">
          {upgrade.ways.map((way) => (
            <li key={way.way}>
              <b className="font-semibold">{way.way}.</b> {way.how}
              <span className="block text-[12px] text-soft">
                {way.requires !== "nothing" && `${t("web.setup.demand.requires", { list: way.requires })} `}
                {entered(way.enters)}
              </span>
            </li>
          ))}
        </ol>
      </section>
      <Prerequisites upgrade={upgrade} />
    </>
  );
}

/** Where each way out is entered. */
const entered = (enters: string) => {
  const key = ENTERED[enters];
  return key ? t(key) : "";
};

const ENTERED: Partial<Record<string, Key>> = {
  loads: "web.setup.demand.enter.loads",
  method: "web.setup.demand.enter.method",
  measured: "web.setup.demand.enter.measured",
  limited: "web.setup.demand.enter.limited",
  "at-peak": "web.setup.demand.enter.at_peak",
  lines: "web.setup.demand.enter.lines",
  feeder: "web.setup.demand.enter.feeder",
  cutout: "web.setup.demand.enter.cutout",
  phases: "web.setup.demand.enter.phases",
};

/** What has to stand before the distributor grants a larger service, each with a date once it is arranged. */
function Prerequisites({ upgrade }: { upgrade: Upgrade }) {
  const { document, edit } = useJob();
  const dates = new Map(
    document.supply.prerequisites?.map((prerequisite) => [prerequisite.id, prerequisite]),
  );
  const put = (id: string, part: { due_on?: string | null; done?: boolean }) => {
    const kept = (document.supply.prerequisites ?? []).filter((prerequisite) => prerequisite.id !== id);
    const was = dates.get(id) ?? { id, done: false };
    edit({ ...document, supply: { ...document.supply, prerequisites: [...kept, { ...was, ...part }] } });
  };
  return (
    <section aria-label={t("web.setup.demand.prerequisites")} data-testid="upgrade">
      <h3 className="mb-1 text-[12px] font-semibold text-soft">
        {t("web.setup.demand.before", { a: upgrade.wanted_a.toFixed(0) })}
      </h3>
      <ol className="flex flex-col">
        {upgrade.prerequisites.map((prerequisite) => {
          const dated = dates.get(prerequisite.id);
          const done = prerequisite.met || dated?.done || false;
          return (
            <li
              key={prerequisite.id}
              className="grid grid-cols-[1.3rem_1fr_8.2rem] gap-2 border-t border-line py-1.5"
            >
              <CheckBox
                className="mt-1"
                aria-label={t("web.setup.demand.done", { step: say(prerequisite.what) })}
                checked={done}
                disabled={prerequisite.met}
                onChange={(checked) => put(prerequisite.id, { done: checked })}
              />
              <span className="text-[13px]">
                {say(prerequisite.what)}
                <span className="block text-[12px] text-soft">
                  {say(prerequisite.reason)}{" "}
                  <i className="not-italic">{t("web.setup.demand.who", { who: say(prerequisite.who) })}</i>
                </span>
              </span>
              <input
                type="date"
                aria-label={t("web.setup.demand.due", { step: say(prerequisite.what) })}
                className="figure h-7 rounded-md border border-line bg-sheet px-1 text-[12px]"
                value={dated?.due_on ?? ""}
                onChange={(event) => put(prerequisite.id, { due_on: event.target.value || null })}
              />
            </li>
          );
        })}
      </ol>
    </section>
  );
}
