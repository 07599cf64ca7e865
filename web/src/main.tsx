import "./room/library.css";
import "@mantine/dropzone/styles.css";
import "@fontsource-variable/instrument-sans";
import "@fontsource-variable/spline-sans-mono";
import "./room/rooms.css";
import "./room/fields.css";
import { MantineProvider } from "@mantine/core";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { Broken } from "./bench/Broken";
import { NoticeLine, NoticeProvider } from "./bench/notice";
import { InRoom } from "./room/InRoom";
import { theme } from "./room/theme";
import { Studio } from "./stations/studio/Studio";

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } } });

const Bench = lazy(() => import("./bench/Bench").then((m) => ({ default: m.Bench })));
const Brief = lazy(() => import("./stations/brief/Brief").then((m) => ({ default: m.Brief })));
const Subject = lazy(() => import("./stations/subject/Subject").then((m) => ({ default: m.Subject })));
const Light = lazy(() => import("./stations/light/Light").then((m) => ({ default: m.Light })));
const Drills = lazy(() => import("./stations/drills/Drills").then((m) => ({ default: m.Drills })));
const Journal = lazy(() => import("./stations/journal/Journal").then((m) => ({ default: m.Journal })));
const Device = lazy(() => import("./stations/device/Device").then((m) => ({ default: m.Device })));
const DevicePiece = lazy(() => import("./stations/device/DevicePiece").then((m) => ({ default: m.DevicePiece })));
const DeviceBox = lazy(() => import("./stations/device/DeviceBox").then((m) => ({ default: m.DeviceBox })));
const Pair = lazy(() => import("./stations/device/Pair").then((m) => ({ default: m.Pair })));
const Guide = lazy(() => import("./stations/guide/Guide").then((m) => ({ default: m.Guide })));
const Keeping = lazy(() => import("./stations/keeping/Keeping").then((m) => ({ default: m.Keeping })));
const Learnt = lazy(() => import("./stations/journal/Learnt").then((m) => ({ default: m.Learnt })));
const FieldNotes = lazy(() => import("./stations/field/FieldNotes").then((m) => ({ default: m.FieldNotes })));
const FieldNote = lazy(() => import("./stations/field/FieldNote").then((m) => ({ default: m.FieldNote })));
const LeanSet = lazy(() => import("./stations/lean-set/LeanSet").then((m) => ({ default: m.LeanSet })));
const Mixes = lazy(() => import("./stations/mixes/Mixes").then((m) => ({ default: m.Mixes })));
const Studies = lazy(() => import("./stations/studies/Studies").then((m) => ({ default: m.Studies })));
const Piece = lazy(() => import("./stations/piece/Piece").then((m) => ({ default: m.Piece })));
const BoxStation = lazy(() => import("./stations/box/BoxStation").then((m) => ({ default: m.BoxStation })));

// For whoever builds a station: in no released page.
const kit = import.meta.env.VITE_KIT
  ? [
      {
        path: "/kit",
        lazy: () => import("./kit/page/KitPage").then((m) => ({ Component: m.KitPage })),
      },
    ]
  : [];

const router = createBrowserRouter([
  {
    element: <InRoom />,
    errorElement: <Broken />,
    children: [
      { path: "/", element: <Studio /> },
      {
        path: "/pieces/:id",
        element: <Bench />,
        children: [
          { index: true, element: <Navigate to="subject" replace /> },
          { path: "brief", element: <Brief /> },
          { path: "subject", element: <Subject /> },
          { path: "light", element: <Light /> },
          { path: "lean-set", element: <LeanSet /> },
          { path: "mixes", element: <Mixes /> },
          { path: "studies", element: <Studies /> },
          { path: "piece", element: <Piece /> },
          { path: "box", element: <BoxStation /> },
        ],
      },
      { path: "/journal", element: <Journal /> },
      { path: "/journal/learnt", element: <Learnt /> },
      { path: "/device", element: <Device /> },
      { path: "/device/pieces/:id", element: <DevicePiece /> },
      { path: "/device/boxes/:id", element: <DeviceBox /> },
      { path: "/pair", element: <Pair /> },
      { path: "/keeping", element: <Keeping /> },
      { path: "/guide", element: <Guide /> },
      { path: "/guide/:page", element: <Guide /> },
      { path: "/drills", element: <Drills /> },
      { path: "/field", element: <FieldNotes /> },
      { path: "/field/:id", element: <FieldNote /> },
      ...kit,
      { path: "*", element: <Navigate to="/" replace /> },
    ],
  },
]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <MantineProvider theme={theme} forceColorScheme="light">
        <QueryClientProvider client={queries}>
          <NoticeProvider>
            <Suspense fallback={null}>
              <RouterProvider router={router} />
            </Suspense>
            <NoticeLine />
          </NoticeProvider>
        </QueryClientProvider>
      </MantineProvider>
    </StrictMode>,
  );
}
