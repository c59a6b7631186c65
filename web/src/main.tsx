import "@fontsource-variable/instrument-sans/wght.css";
import "@fontsource-variable/spline-sans-mono/wght.css";
import "./app.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { Broken } from "./Broken";
import { BoardPage } from "./board";
import { CircuitsPage } from "./circuits";
import { Compare } from "./compare";
import { Documents } from "./documents";
import { Faults } from "./faults";
import { JobShell } from "./job/JobShell";
import { Jobs } from "./jobs";
import { languageNow } from "./messages/catalogue";
import { NotFound } from "./NotFound";
import { keepProgram } from "./offline/register";
import { startSending } from "./offline/start";
import { Protection } from "./protection";
import { QuotePage } from "./quote";
import { TestingPage } from "./readings";
import { RoutesPage } from "./routes";
import { Setup } from "./setup";
import { Standards } from "./standards";
import { SurveyPage } from "./survey";
import { TrainingPage } from "./training";

/** Former paths of the views, for bookmarks. */
const FORMER = [
  ["intake", "setup"],
  ["lattice", "circuits"],
  ["variants", "compare"],
  ["papers", "documents"],
] as const;

const router = createBrowserRouter([
  { path: "/", element: <Jobs />, errorElement: <Broken /> },
  {
    path: "/jobs/:jobId",
    element: <JobShell />,
    errorElement: <Broken />,
    children: [
      { index: true, element: <Navigate to="circuits" replace /> },
      { path: "setup", element: <Setup /> },
      { path: "survey", element: <SurveyPage /> },
      { path: "circuits", element: <CircuitsPage /> },
      { path: "routes", element: <RoutesPage /> },
      { path: "protection", element: <Protection /> },
      { path: "board", element: <BoardPage /> },
      { path: "faults", element: <Faults /> },
      { path: "testing", element: <TestingPage /> },
      { path: "compare", element: <Compare /> },
      { path: "quote", element: <QuotePage /> },
      { path: "documents", element: <Documents /> },
      ...FORMER.map(([path, to]) => ({ path, element: <Navigate to={`../${to}`} replace /> })),
      { path: "*", element: <NotFound /> },
    ],
  },
  { path: "/training", element: <TrainingPage />, errorElement: <Broken /> },
  { path: "/standards", element: <Standards />, errorElement: <Broken /> },
  { path: "/schools", element: <Navigate to="/standards" replace /> },
  { path: "*", element: <NotFound /> },
]);

// Whether the machine is on line says nothing of a server on the same machine; and without one, copies answer.
const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, networkMode: "always" } },
});
keepProgram();
startSending();

const root = document.getElementById("root");
if (!root) throw new Error("index.html has no #root.");
document.documentElement.lang = languageNow();
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
