import { useEffect, useState } from "react";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { saveFrom } from "./saveFrom";
import type { Made } from "./useExport";

/** The pages of a sheet as pictures, to be looked at before it is saved. */
export function Preview({ made, onShown }: { made: Made | undefined; onShown: () => void }) {
  if (!made)
    return (
      <div className="m-auto max-w-sm p-8 text-center text-soft">
        <p className="font-medium text-ink">{t("web.documents.preview.empty_title")}</p>
        <p className="text-[13px]">{t("web.documents.preview.empty")}</p>
      </div>
    );
  const size =
    made.bytes > 1024 * 1024
      ? t("web.documents.preview.mb", { bytes: (made.bytes / 1024 / 1024).toFixed(1) })
      : t("web.documents.preview.kb", { bytes: Math.ceil(made.bytes / 1024) });
  return (
    <>
      <div className="flex items-center gap-3 border-b border-line bg-sheet px-4 py-2 text-[13px]">
        <span className="min-w-0 flex-1 truncate" title={made.name}>
          <b className="font-medium">{made.name}</b>{" "}
          <span className="text-soft">
            {made.pages > 0 && t("web.documents.preview.pages", { n: made.pages })}
            {size}
            {made.revision !== null && t("web.documents.preview.revision", { revision: made.revision })}
          </span>
        </span>
        <Button variant="strong" onClick={() => saveFrom(`/api/exports/${made.id}`, made.name)}>
          {t("web.documents.preview.save")}
        </Button>
      </div>
      {made.pages > 0 ? (
        <ol
          aria-label={t("web.documents.preview.pages_label")}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: pages are scrolled by keyboard
          tabIndex={0}
          className="flex flex-1 flex-col gap-4 p-4 lg:min-h-0 lg:overflow-auto"
        >
          {Array.from({ length: made.pages }, (_, at) => at + 1).map((number) => (
            <Page
              key={`${made.id} ${number}`}
              made={made}
              number={number}
              onShown={number === 1 ? onShown : undefined}
            />
          ))}
        </ol>
      ) : (
        <p className="p-6 text-[13px] text-soft">{t("web.documents.preview.saved")}</p>
      )}
    </>
  );
}

function Page({ made, number, onShown }: { made: Made; number: number; onShown?: () => void }) {
  const [gone, setGone] = useState(false);
  const [ready, setReady] = useState(false);
  useEffect(() => setGone(false), []);
  return (
    <li className="mx-auto w-full max-w-[860px]">
      {gone ? (
        <p role="alert" className="rounded border border-line bg-sheet p-6 text-fail">
          {t("web.documents.preview.gone", { n: number })}
        </p>
      ) : (
        <img
          src={`/api/exports/${made.id}/pages/${number}`}
          alt={t("web.documents.preview.page", { document: made.wanted.title, n: number, total: made.pages })}
          loading="lazy"
          data-ready={ready}
          className="block min-h-40 w-full border border-line bg-white shadow-sm"
          onLoad={() => {
            setReady(true);
            onShown?.();
          }}
          onError={() => setGone(true)}
        />
      )}
    </li>
  );
}
