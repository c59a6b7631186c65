import { useRouteError } from "react-router";
import { t } from "./messages/text";
import { Button } from "./ui/Button";

/** What is shown where the page itself fails: that the work is there, and the two ways on. */
export function Broken() {
  const error = useRouteError();
  return (
    <main role="alert" className="mx-auto max-w-lg p-10">
      <h1 className="mb-2 text-lg font-semibold">{t("web.broken.title")}</h1>
      <p className="mb-3">{t("web.broken.text")}</p>
      <p className="flex gap-3">
        <Button variant="strong" onClick={() => window.location.reload()}>
          {t("web.broken.reload")}
        </Button>
        {/* A whole new page: what failed is not kept. */}
        <a href="/" className="self-center text-accent underline">
          {t("web.not_found.jobs")}
        </a>
      </p>
      <pre className="mt-6 overflow-auto text-[12px] text-soft">
        {error instanceof Error ? error.message : String(error)}
      </pre>
    </main>
  );
}
