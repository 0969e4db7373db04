import { notifyManager, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { keepScreens } from "./api/server";
import { Broken } from "./app/Broken";
import { FirstPlan } from "./app/FirstPlan";
import { Frame } from "./app/Frame";
import { NotHere } from "./app/NotHere";
import { startPalette } from "./app/palette";
import "./index.css";

startPalette();
keepScreens();
/** Edits show in the same frame: a checkbox must not flicker back before the cache tells of it. */
notifyManager.setScheduler(queueMicrotask);
const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 30_000 } } });
const router = createBrowserRouter([
  { path: "/", element: <FirstPlan />, errorElement: <Broken /> },
  {
    path: "/plans",
    errorElement: <Broken />,
    hydrateFallbackElement: <p className="p-6 text-faint">Opening…</p>,
    lazy: async () => ({ Component: (await import("./features/plans/PlansScreen")).PlansScreen }),
  },
  {
    path: "/begin",
    errorElement: <Broken />,
    hydrateFallbackElement: <p className="p-6 text-faint">Opening…</p>,
    lazy: async () => ({ Component: (await import("./features/plans/Begin")).Begin }),
  },
  {
    path: "/guide/:page?",
    errorElement: <Broken />,
    lazy: async () => ({ Component: (await import("./features/guide/GuideScreen")).GuideScreen }),
  },
  {
    path: "/plans/:planId",
    errorElement: <Broken />,
    hydrateFallbackElement: <p className="p-6 text-faint">Opening…</p>,
    element: <Frame />,
    children: [
      { index: true, element: <Navigate to="panel" replace /> },
      {
        path: "needs",
        lazy: async () => ({ Component: (await import("./features/needs/NeedsScreen")).NeedsScreen }),
      },
      {
        path: "panel",
        lazy: async () => ({ Component: (await import("./features/panel/PanelScreen")).PanelScreen }),
      },
      {
        path: "gear",
        lazy: async () => ({ Component: (await import("./features/gear/GearScreen")).GearScreen }),
      },
      {
        path: "feed",
        lazy: async () => ({ Component: (await import("./features/feed/FeedScreen")).FeedScreen }),
      },
      {
        path: "checks",
        lazy: async () => ({ Component: (await import("./features/checks/ChecksScreen")).ChecksScreen }),
      },
      {
        path: "outage",
        lazy: async () => ({ Component: (await import("./features/outage/OutageScreen")).OutageScreen }),
      },
      {
        path: "runbook",
        lazy: async () => ({ Component: (await import("./features/runbook/RunbookScreen")).RunbookScreen }),
      },
      {
        path: "log",
        lazy: async () => ({ Component: (await import("./features/log/LogScreen")).LogScreen }),
      },
      {
        path: "variants",
        lazy: async () => ({
          Component: (await import("./features/variants/VariantsScreen")).VariantsScreen,
        }),
      },
      {
        path: "practise",
        lazy: async () => ({
          Component: (await import("./features/practise/PractiseScreen")).PractiseScreen,
        }),
      },
      {
        path: "history",
        lazy: async () => ({ Component: (await import("./features/history/HistoryScreen")).HistoryScreen }),
      },
      { path: "*", element: <NotHere /> },
    ],
  },
  { path: "*", element: <NotHere /> },
]);

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
