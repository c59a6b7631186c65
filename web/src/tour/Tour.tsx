import { useEffect } from "react";
import { useLocation, useNavigate, useSearchParams } from "react-router";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { STOPS, TOUR } from "./tourModel";

/** The stop of the tour that the address names: what is pointed at has a frame. Escape leaves it. */
export function Tour() {
  const { jobId } = useJob();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const number = Number(search.get(TOUR));
  const stop = STOPS[number - 1];
  const leave = () => navigate(pathname, { replace: true });

  useFrame(stop?.at);
  useEffect(() => {
    if (!stop) return;
    const pressed = (event: KeyboardEvent) => event.key === "Escape" && navigate(pathname, { replace: true });
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [stop, navigate, pathname]);

  if (!stop) return null;
  const go = (to: number) => navigate(`/jobs/${jobId}/${STOPS[to - 1]?.path}?${TOUR}=${to}`);
  return (
    <section
      aria-label={t("web.tour.title")}
      data-testid="tour"
      className="no-print fixed bottom-4 left-4 z-30 w-[22rem] max-w-[94vw] rounded-xl border border-accent bg-sheet p-4 shadow-2xl"
    >
      <p className="figure text-[12px] text-soft">{t("web.tour.step", { n: number, total: STOPS.length })}</p>
      <h2 className="mb-1 font-semibold">{t(stop.title)}</h2>
      <p className="mb-3 text-[13px]" role="status">
        {t(stop.text)}
      </p>
      <div className="flex items-center justify-between gap-2">
        <Button variant="quiet" onClick={leave}>
          {t("web.tour.leave")}
        </Button>
        <span className="flex gap-2">
          <Button disabled={number === 1} onClick={() => go(number - 1)}>
            {t("web.tour.back")}
          </Button>
          <Button variant="strong" onClick={() => (number < STOPS.length ? go(number + 1) : leave())}>
            {number < STOPS.length ? t("web.tour.next") : t("web.tour.end")}
          </Button>
        </span>
      </div>
    </section>
  );
}

/** A frame around an element, as soon as it is there. */
function useFrame(selector: string | undefined) {
  useEffect(() => {
    if (!selector) return;
    const frame = () => {
      const found = window.document.querySelector(selector);
      found?.setAttribute("data-toured", "");
      return found;
    };
    const timer = frame() ? undefined : setInterval(() => frame() && clearInterval(timer), 200);
    return () => {
      clearInterval(timer);
      for (const framed of window.document.querySelectorAll("[data-toured]"))
        framed.removeAttribute("data-toured");
    };
  }, [selector]);
}
