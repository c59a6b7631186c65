import type { NavigateFunction } from "react-router";
import type { Key } from "../messages/text";

/** A stop of the tour: the view it is in, what it points at there, and what is said. */
export type Stop = { path: string; at: string; title: Key; text: Key };

/** Two minutes through the lead demo, in the order of the work. */
export const STOPS: Stop[] = [
  { path: "circuits", at: "[role=grid]", title: "web.tour.grid.title", text: "web.tour.grid.text" },
  {
    path: "circuits",
    at: "[data-testid=next-steps]",
    title: "web.tour.next.title",
    text: "web.tour.next.text",
  },
  {
    path: "circuits",
    at: "[data-testid=working]",
    title: "web.tour.working.title",
    text: "web.tour.working.text",
  },
  { path: "circuits", at: "#quick-entry", title: "web.tour.entry.title", text: "web.tour.entry.text" },
  { path: "protection", at: "main", title: "web.tour.protection.title", text: "web.tour.protection.text" },
  {
    path: "board",
    at: "[data-testid=board-drawing]",
    title: "web.tour.board.title",
    text: "web.tour.board.text",
  },
  { path: "faults", at: "main", title: "web.tour.faults.title", text: "web.tour.faults.text" },
  { path: "documents", at: "main", title: "web.tour.documents.title", text: "web.tour.documents.text" },
];

/** The parameter of the address that says at which stop the tour is. */
export const TOUR = "tour";

/** Begins the tour of a job. */
export const startTour = (navigate: NavigateFunction, jobId: string) =>
  navigate(`/jobs/${jobId}/${STOPS[0]?.path}?${TOUR}=1`);
