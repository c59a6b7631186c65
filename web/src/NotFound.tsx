import { Link, useLocation } from "react-router";
import { t } from "./messages/text";

/** What is shown at an address that leads nowhere. */
export function NotFound() {
  const { pathname } = useLocation();
  return (
    <main className="mx-auto max-w-lg p-10">
      <h1 className="mb-2 text-lg font-semibold">{t("web.not_found.title")}</h1>
      <p className="mb-3">{t("web.not_found.text", { path: pathname })}</p>
      <Link to="/" className="text-accent underline">
        {t("web.not_found.jobs")}
      </Link>
    </main>
  );
}
