import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, client, type FaultEvent, type TripRecord } from "../api/client";
import { causesQuery, devicesQuery, tripsQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, Field } from "../ui/Field";

const BOX = "w-full rounded-md border border-line bg-sheet px-2 py-1 text-[13px]";

/** Devices that tripped, as recorded, with their likely causes as the engine ranks them. */
export function TripLog({ onShow }: { onShow: (event: FaultEvent) => void }) {
  const { jobId, document, version, settled } = useJob();
  const queries = useQueryClient();
  const trips = useQuery(tripsQuery(jobId));
  const devices = useQuery(devicesQuery(document, version, settled));
  const [error, setError] = useState("");
  const [open, setOpen] = useState<number>();
  const titles = new Map(devices.data?.map((device) => [device.id, say(device.title)]));
  const changed = () => queries.invalidateQueries({ queryKey: ["trips", jobId] });
  const add = async (trip: Omit<TripRecord, "id">) => {
    setError("");
    try {
      const kept = await answered(
        client.POST("/api/jobs/{job_id}/trips", { params: { path: { job_id: jobId } }, body: trip }),
      );
      await changed();
      setOpen(kept.id);
      return true;
    } catch (reason) {
      setError(reason instanceof Error ? reason.message : String(reason));
      return false;
    }
  };
  const remove = async (trip: TripRecord) => {
    await answered(
      client.DELETE("/api/jobs/{job_id}/trips/{trip_id}", {
        params: { path: { job_id: jobId, trip_id: trip.id } },
      }),
    );
    await changed();
  };
  return (
    <aside
      aria-label={t("web.faults.log.section")}
      className="flex w-[330px] shrink-0 flex-col gap-3 overflow-auto border-l border-line bg-sheet px-4 py-3 max-lg:w-full max-lg:border-l-0 max-lg:border-t"
    >
      <h2 className="text-[17px] font-semibold">{t("web.faults.log.title")}</h2>
      <NewTrip
        devices={(devices.data ?? []).map(({ id, title }) => ({ id, title: say(title) }))}
        onAdd={add}
      />
      {(error || trips.error) && (
        <p role="alert" className="text-[13px] text-fail">
          {error || trips.error?.message}
        </p>
      )}
      <ol className="flex flex-col" data-testid="trips">
        {trips.data?.map((trip) => (
          <li key={trip.id} className="border-t border-line py-2 text-[13px]">
            <button
              type="button"
              className="w-full text-left"
              aria-expanded={open === trip.id}
              onClick={() => setOpen(open === trip.id ? undefined : trip.id)}
            >
              <span className="figure text-soft">{trip.at.replace("T", " ")}</span>
              <b className="block font-semibold">{titles.get(trip.device) ?? trip.device}</b>
              {trip.note && <span className="text-soft">{trip.note}</span>}
            </button>
            {open === trip.id && (
              <>
                <Causes trip={trip} onShow={onShow} />
                <Button variant="quiet" onClick={() => void remove(trip)}>
                  {t("web.faults.log.delete")}
                </Button>
              </>
            )}
          </li>
        ))}
        {trips.data?.length === 0 && <li className="text-[13px] text-soft">{t("web.faults.log.empty")}</li>}
      </ol>
    </aside>
  );
}

function NewTrip({
  devices,
  onAdd,
}: {
  devices: { id: string; title: string }[];
  onAdd: (trip: Omit<TripRecord, "id">) => Promise<boolean>;
}) {
  const { document } = useJob();
  const [at, setAt] = useState("");
  const [chosen, setDevice] = useState("");
  const [ran, setRan] = useState("");
  const [note, setNote] = useState("");
  const device = devices.some((device) => device.id === chosen) ? chosen : (devices[0]?.id ?? "");
  return (
    <form
      className="flex flex-col gap-2"
      aria-label={t("web.faults.log.form")}
      onSubmit={async (event) => {
        event.preventDefault();
        if (await onAdd({ at, device, ran: ran ? [ran] : [], note })) setNote("");
      }}
    >
      <Field label={t("web.faults.log.when")}>
        {(id) => (
          <input
            id={id}
            type="datetime-local"
            required
            className={BOX}
            value={at}
            onChange={(event) => setAt(event.target.value)}
          />
        )}
      </Field>
      <Choice
        label={t("web.faults.log.device")}
        value={device}
        options={devices.map((device) => ({ value: device.id, label: device.title }))}
        onCommit={setDevice}
      />
      <Choice
        label={t("web.faults.log.in_use")}
        value={ran}
        options={[
          { value: "", label: t("web.faults.log.in_use_unknown") },
          ...(document.circuits ?? []).map((circuit) => ({ value: circuit.id, label: circuit.name })),
        ]}
        onCommit={setRan}
      />
      <Field label={t("web.faults.log.notes")}>
        {(id) => (
          <input
            id={id}
            className={BOX}
            maxLength={1000}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        )}
      </Field>
      <Button type="submit" className="self-start" disabled={!device}>
        {t("web.faults.log.add")}
      </Button>
    </form>
  );
}

function Causes({ trip, onShow }: { trip: TripRecord; onShow: (event: FaultEvent) => void }) {
  const { document, version, settled } = useJob();
  const causes = useQuery(causesQuery(document, version, trip, settled));
  if (causes.error) return <p className="text-fail">{causes.error.message}</p>;
  if (!causes.data) return <p className="text-soft">{t("web.faults.log.causes_loading")}</p>;
  if (!causes.data.length) return <p className="text-soft">{t("web.faults.log.causes_none")}</p>;
  return (
    <ol className="mt-1 flex flex-col gap-1" data-testid="causes">
      {causes.data.map((cause) => (
        <li key={say(cause.title)}>
          <button
            type="button"
            className="w-full rounded-lg border border-line px-2 py-1 text-left hover:border-accent"
            onClick={() => onShow(cause.event)}
          >
            <span className="flex justify-between gap-2">
              <b className="font-medium">{say(cause.title)}</b>
              <span className="figure shrink-0 text-soft">{Math.round(cause.likelihood_pct)} %</span>
            </span>
            <span className="block text-[12px]">{say(cause.reason)}</span>
            <span className="block text-[12px] text-soft">{say(cause.how_to_check)}</span>
          </button>
        </li>
      ))}
      <li className="text-[11.5px] text-soft">{t("web.faults.log.causes_note")}</li>
    </ol>
  );
}
