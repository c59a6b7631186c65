import { Popover } from "radix-ui";
import { useState } from "react";
import type { Job, TestingView } from "../api/client";
import { useJob } from "../job/JobContext";
import { freeId } from "../job/jobModel";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";
import { PopoverPanel } from "../ui/PopoverPanel";
import { ImportReadings } from "./ImportReadings";
import type { ConnectedInstrument } from "./useInstrument";

type Testing = NonNullable<Job["testing"]>;
type Instrument = NonNullable<Testing["instruments"]>[number];

const BY = "vivid-lattice-tester";

/** Who reads, and with which instrument: remembered by this browser, and in every reading. */
export function useTester() {
  const { document } = useJob();
  const [by, setBy] = useState(() => localStorage.getItem(BY) ?? "");
  const [chosen, setInstrument] = useState("");
  const instruments = document.testing?.instruments ?? [];
  const instrument = instruments.some(({ id }) => id === chosen) ? chosen : (instruments[0]?.id ?? "");
  return {
    by,
    instrument,
    setInstrument,
    setBy: (name: string) => {
      localStorage.setItem(BY, name);
      setBy(name);
    },
  };
}

export function TesterFields({
  tester,
  connected,
  intervals,
}: {
  tester: ReturnType<typeof useTester>;
  connected: ConnectedInstrument;
  intervals: TestingView["plan"]["intervals"];
}) {
  const { document, edit } = useJob();
  const testing = document.testing;
  const instruments = testing?.instruments ?? [];
  const put = (part: Partial<Testing>) => edit({ ...document, testing: { ...testing, ...part } as Testing });
  return (
    <div className="flex flex-wrap items-end gap-2">
      <div className="w-24">
        <FigureField
          label={t("web.testing.temperature")}
          unit="°C"
          required
          signed
          value={testing?.temperature_c ?? 20}
          onCommit={(temperature_c) => temperature_c !== null && put({ temperature_c })}
        />
      </div>
      <div className="w-36">
        <Field label={t("web.testing.by")}>
          {(id) => <TextBox id={id} value={tester.by} maxLength={80} onCommit={tester.setBy} />}
        </Field>
      </div>
      {instruments.length > 1 && (
        <div className="w-40">
          <Choice
            label={t("web.testing.instrument")}
            value={tester.instrument}
            options={instruments.map(({ id, name }) => ({ value: id, label: name }))}
            onCommit={tester.setInstrument}
          />
        </div>
      )}
      <Popover.Root>
        <Popover.Trigger asChild>
          <Button>
            {instruments.length
              ? instruments.map(({ name }) => name).join(", ")
              : t("web.testing.add_instrument")}
          </Button>
        </Popover.Trigger>
        <PopoverPanel title={t("web.testing.instruments")} align="end" className="w-80">
          <Instruments instruments={instruments} onChange={(list) => put({ instruments: list })} />
          <ImportReadings />
          <Connection
            connected={connected}
            instruments={instruments}
            onAdd={(list) => put({ instruments: list })}
          />
        </PopoverPanel>
      </Popover.Root>
      <div className="w-40" title={usual(intervals)}>
        <Field label={t("web.testing.next_inspection")}>
          {(id) => (
            <input
              id={id}
              type="date"
              className="w-full rounded-md border border-line bg-sheet px-2 py-1 text-[13px]"
              value={testing?.next_inspection ?? ""}
              onChange={(event) => put({ next_inspection: event.target.value || null })}
            />
          )}
        </Field>
      </div>
    </div>
  );
}

/** The longest usual times to the next inspection, in words; '' where there is no custom. */
function usual(intervals: TestingView["plan"]["intervals"]): string {
  const said = intervals.map(({ premises: what, months }) =>
    months % 12
      ? t("web.testing.months", { what, months: String(months) })
      : t("web.testing.years", { what, years: String(months / 12) }),
  );
  return said.length ? t("web.testing.usual_intervals", { list: said.join(", ") }) : "";
}

/** A tester on a port of the machine of the server. */
function Connection({
  connected,
  instruments,
  onAdd,
}: {
  connected: ConnectedInstrument;
  instruments: Instrument[];
  onAdd: (instruments: Instrument[]) => void;
}) {
  const { port, identity, said } = connected;
  const known = instruments.some(({ serial }) => serial === identity?.serial);
  return (
    <div className="mt-3 flex flex-col gap-2 border-t border-line pt-2 text-[12.5px]">
      <FigureField
        label={t("web.testing.connected")}
        unit=""
        value={port || null}
        empty={t("web.testing.no_port")}
        onCommit={(next) => void connected.connect(next)}
      />
      {port > 0 && !identity && (
        <Button className="self-start" onClick={() => void connected.connect(port)}>
          {t("web.testing.connect")}
        </Button>
      )}
      {identity && (
        <>
          <p data-testid="connected">
            {t("web.testing.connected_to", {
              name: identity.name,
              serial: identity.serial,
              date: identity.calibrated_on,
            })}
          </p>
          <span className="flex gap-2">
            <Button onClick={() => void connected.nullLeads()}>{t("web.testing.null")}</Button>
            {!known && (
              <Button
                onClick={() =>
                  onAdd([
                    ...instruments,
                    {
                      id: freeId("tester", instruments),
                      name: identity.name,
                      serial: identity.serial,
                      calibrated_on: identity.calibrated_on,
                    },
                  ])
                }
              >
                {t("web.testing.add_connected")}
              </Button>
            )}
          </span>
        </>
      )}
      {said.text && !said.test && <p role="status">{said.text}</p>}
    </div>
  );
}

function Instruments({
  instruments,
  onChange,
}: {
  instruments: Instrument[];
  onChange: (instruments: Instrument[]) => void;
}) {
  const set = (at: number, part: Partial<Instrument>) =>
    onChange(instruments.map((each, number) => (number === at ? { ...each, ...part } : each)));
  return (
    <div className="flex flex-col gap-3">
      {instruments.map((instrument, at) => (
        <fieldset key={instrument.id} className="grid grid-cols-2 gap-2 border-b border-line pb-2">
          <div className="col-span-2">
            <Field label={t("web.testing.instrument")}>
              {(id) => (
                <TextBox
                  id={id}
                  value={instrument.name}
                  maxLength={120}
                  onCommit={(name) => name.trim() && set(at, { name: name.trim() })}
                />
              )}
            </Field>
          </div>
          <Field label={t("web.testing.serial")}>
            {(id) => (
              <TextBox
                id={id}
                value={instrument.serial ?? ""}
                maxLength={60}
                onCommit={(serial) => set(at, { serial })}
              />
            )}
          </Field>
          <Field label={t("web.testing.calibrated")}>
            {(id) => (
              <input
                id={id}
                type="date"
                className="w-full rounded-md border border-line bg-sheet px-2 py-1"
                value={instrument.calibrated_on ?? ""}
                onChange={(event) => set(at, { calibrated_on: event.target.value || null })}
              />
            )}
          </Field>
          <FigureField
            label={t("web.testing.uncertainty")}
            unit="%"
            value={instrument.uncertainty_pct}
            empty={t("web.testing.uncertainty_usual")}
            onCommit={(uncertainty_pct) => set(at, { uncertainty_pct })}
          />
        </fieldset>
      ))}
      <Button
        className="self-start"
        onClick={() =>
          onChange([
            ...instruments,
            { id: freeId("tester", instruments), name: t("web.testing.new_instrument"), serial: "" },
          ])
        }
      >
        {t("web.testing.add_instrument")}
      </Button>
    </div>
  );
}
