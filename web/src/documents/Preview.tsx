import { useEffect, useState } from "react";
import { Button } from "../ui/Button";
import { saveFrom } from "./saveFrom";
import type { Made } from "./useExport";

/** The pages of a sheet as pictures, to be looked at before it is saved. */
export function Preview({ made, onShown }: { made: Made | undefined; onShown: () => void }) {
  if (!made)
    return (
      <div className="m-auto max-w-sm p-8 text-center text-soft">
        <p className="font-medium text-ink">Nothing to look at yet.</p>
        <p className="text-[13px]">
          Look at a sheet to see its pages here before it is saved. Each page bears the job, its revision and
          the cautions.
        </p>
      </div>
    );
  const size =
    made.bytes > 1024 * 1024
      ? `${(made.bytes / 1024 / 1024).toFixed(1)} MB`
      : `${Math.ceil(made.bytes / 1024)} kB`;
  return (
    <>
      <div className="flex items-center gap-3 border-b border-line bg-sheet px-4 py-2 text-[13px]">
        <span className="min-w-0 flex-1 truncate" title={made.name}>
          <b className="font-medium">{made.name}</b>{" "}
          <span className="text-soft">
            {made.pages > 0 && `${made.pages} page${made.pages === 1 ? "" : "s"}, `}
            {size}
            {made.revision !== null && `, revision ${made.revision}`}
          </span>
        </span>
        <Button variant="strong" onClick={() => saveFrom(`/api/exports/${made.id}`, made.name)}>
          Save
        </Button>
      </div>
      {made.pages > 0 ? (
        <ol
          aria-label="Pages"
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
        <p className="p-6 text-[13px] text-soft">
          It is saved. What it holds is opened with the program for it.
        </p>
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
          Page {number} cannot be shown any more: look at the sheet again.
        </p>
      ) : (
        <img
          src={`/api/exports/${made.id}/pages/${number}`}
          alt={`${made.wanted.title}, page ${number} of ${made.pages}`}
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
