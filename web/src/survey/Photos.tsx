import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answered, client, type Photo, Refused } from "../api/client";
import { photosQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";

/** Photos of the board, of one way, or of what `title` says: kept with the job, made smaller, and without what the camera wrote into them. */
export function Photos({
  board,
  way,
  title,
  onWhole,
}: {
  board: string;
  way: number | null;
  title?: string;
  onWhole?: () => void;
}) {
  const { jobId, notify } = useJob();
  const queries = useQueryClient();
  const { data = [] } = useQuery(photosQuery(jobId));
  const [shown, setShown] = useState<Photo>();
  const [busy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const photos = data.filter((photo) => photo.board === board && (way === null || photo.way === way));
  const refresh = () => void queries.invalidateQueries({ queryKey: ["photos", jobId] });
  const send = async (files: FileList) => {
    setBusy(true);
    try {
      for (const file of files) {
        const query = new URLSearchParams({ board, caption: file.name.slice(0, 120) });
        if (way !== null) query.set("way", String(way));
        const response = await fetch(`/api/jobs/${jobId}/photos?${query}`, {
          method: "POST",
          headers: { "content-type": "application/octet-stream" },
          body: file,
        });
        if (!response.ok) throw new Refused(response.status, await response.json());
      }
      notify("");
    } catch (reason) {
      notify(t("web.survey.photos.failed", { reason: (reason as Error).message }));
    }
    setBusy(false);
    if (input.current) input.current.value = "";
    refresh();
  };
  const drop = async (photo: Photo) => {
    setShown(undefined);
    try {
      await answered(
        client.DELETE("/api/jobs/{job_id}/photos/{photo_id}", {
          params: { path: { job_id: jobId, photo_id: photo.id } },
        }),
      );
    } catch (reason) {
      notify((reason as Error).message);
    }
    refresh();
  };
  const source = (photo: Photo, size: "image" | "small") =>
    `/api/jobs/${jobId}/photos/${photo.id}?size=${size}`;
  return (
    <section
      aria-label={t("web.survey.photos.section")}
      className="rounded-xl border border-line bg-sheet p-3"
      data-testid="photos"
    >
      <header className="mb-2 flex items-center justify-between gap-2">
        <h2 className="text-[13px] font-semibold">
          {title ??
            (way === null ? t("web.survey.photos.of_board") : t("web.survey.photos.of_way", { n: way }))}
        </h2>
        {way !== null && onWhole && (
          <Button variant="quiet" onClick={onWhole}>
            {t("web.survey.photos.all")}
          </Button>
        )}
        <Button disabled={busy} onClick={() => input.current?.click()}>
          {busy ? t("web.survey.photos.saving") : t("web.survey.photos.add")}
        </Button>
      </header>
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        multiple
        aria-label={t("web.survey.photos.choose")}
        className="sr-only"
        onChange={(event) => event.target.files?.length && void send(event.target.files)}
      />
      <ul className="grid grid-cols-3 gap-1.5">
        {photos.map((photo) => (
          <li key={photo.id}>
            <button type="button" onClick={() => setShown(photo)} className="block w-full">
              <img
                src={source(photo, "small")}
                alt={photo.caption || t("web.survey.photos.alt", { at: photo.at })}
                className="aspect-square w-full rounded-md object-cover"
              />
              <span className="block truncate text-[11.5px] text-soft">
                {photo.way ? t("web.survey.photos.way", { n: photo.way }) : ""}
                {photo.caption}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {!photos.length && <p className="text-[12.5px] text-soft">{t("web.survey.photos.empty")}</p>}
      <Dialog
        open={Boolean(shown)}
        onOpenChange={(open) => !open && setShown(undefined)}
        title={shown?.caption || t("web.survey.photos.title")}
        wide
      >
        {shown && (
          <>
            <img
              src={source(shown, "image")}
              alt={shown.caption}
              className="max-h-[70vh] w-full object-contain"
            />
            <Button className="mt-2" onClick={() => void drop(shown)}>
              {t("web.survey.photos.delete")}
            </Button>
          </>
        )}
      </Dialog>
    </section>
  );
}
