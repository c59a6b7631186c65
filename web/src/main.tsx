import "@fontsource-variable/instrument-sans/wght.css";
import "@fontsource-variable/spline-sans-mono/wght.css";
import "./app.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { BoardPage } from "./board";
import { Faults } from "./faults";
import { Intake } from "./intake";
import { JobShell } from "./job/JobShell";
import { Jobs } from "./jobs";
import { LatticeView } from "./lattice";
import { Papers } from "./papers";
import { Protection } from "./protection";
import { Schools } from "./schools";
import { SurveyPage } from "./survey";
import { Variants } from "./variants";

const router = createBrowserRouter([
  { path: "/", element: <Jobs /> },
  {
    path: "/jobs/:jobId",
    element: <JobShell />,
    children: [
      { index: true, element: <Navigate to="lattice" replace /> },
      { path: "intake", element: <Intake /> },
      { path: "survey", element: <SurveyPage /> },
      { path: "lattice", element: <LatticeView /> },
      { path: "protection", element: <Protection /> },
      { path: "board", element: <BoardPage /> },
      { path: "faults", element: <Faults /> },
      { path: "variants", element: <Variants /> },
      { path: "papers", element: <Papers /> },
    ],
  },
  { path: "/schools", element: <Schools /> },
  { path: "*", element: <Navigate to="/" replace /> },
]);

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

const root = document.getElementById("root");
if (!root) throw new Error("index.html has no #root.");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
