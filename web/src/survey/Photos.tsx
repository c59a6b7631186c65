import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { answered, client, type Photo } from "../api/client";
import { photosQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import type { KeptPhoto } from "../offline/database";
import { photoQueue } from "../offline/photoQueue";
import { usePhotoQueue } from "../offline/useOutbox";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { FileButton } from "../ui/FileButton";

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
  const { waiting } = usePhotoQueue(jobId);
  const here = <P extends { board: string; way?: number | null }>(photo: P) =>
    photo.board === board && (way === null || photo.way === way);
  const photos = data.filter(here);
  const kept = waiting.filter(here);
  const refresh = () => void queries.invalidateQueries({ queryKey: ["photos", jobId] });
  // What has been sent is the server's from then on.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it follows the number of those that wait
  useEffect(refresh, [kept.length]);
  const add = async (files: File[]) => {
    const taken = await Promise.all(
      files.map(async (file) => ({
        ...{ id: crypto.randomUUID(), job: jobId, board, way },
        caption: file.name.slice(0, 120),
        picture: await file.arrayBuffer(),
      })),
    );
    await photoQueue.put(taken);
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
        <FileButton
          text={t("web.survey.photos.add")}
          label={t("web.survey.photos.choose")}
          accept="image/jpeg,image/png,image/webp"
          multiple
          onFiles={(files) => void add(files)}
        />
      </header>
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
        {kept.map((photo) => (
          <Waiting key={photo.id} photo={photo} />
        ))}
      </ul>
      {!photos.length && !kept.length && (
        <p className="text-[12.5px] text-soft">{t("web.survey.photos.empty")}</p>
      )}
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

/** A photo that is still in this browser alone; one that the server refused says why. */
function Waiting({ photo }: { photo: KeptPhoto }) {
  const url = useMemo(() => URL.createObjectURL(new Blob([photo.picture])), [photo.picture]);
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  return (
    <li data-waiting={photo.id}>
      <img
        src={url}
        alt={photo.caption}
        className="aspect-square w-full rounded-md object-cover opacity-60"
      />
      <span className="block truncate text-[11.5px] text-soft">{photo.caption}</span>
      {photo.why ? (
        <span role="alert" className="block text-[11.5px] text-fail">
          {t("web.survey.photos.failed", { reason: photo.why })}
          <Button variant="quiet" onClick={() => void photoQueue.discard(photo.id)}>
            {t("web.testing.discard")}
          </Button>
        </span>
      ) : (
        <span className="block text-[11.5px] text-soft">{t("web.survey.photos.waiting")}</span>
      )}
    </li>
  );
}
