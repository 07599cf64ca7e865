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
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
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
const MatchPage = lazy(() => import("./stations/match/MatchPage").then((m) => ({ default: m.MatchPage })));
const LeanSet = lazy(() => import("./stations/lean-set/LeanSet").then((m) => ({ default: m.LeanSet })));
const Mixes = lazy(() => import("./stations/mixes/Mixes").then((m) => ({ default: m.Mixes })));
const Studies = lazy(() => import("./stations/studies/Studies").then((m) => ({ default: m.Studies })));
const Piece = lazy(() => import("./stations/piece/Piece").then((m) => ({ default: m.Piece })));
const BoxStation = lazy(() => import("./stations/box/BoxStation").then((m) => ({ default: m.BoxStation })));

// For whoever builds a station: in no released page.
const KitPage = import.meta.env.VITE_KIT
  ? lazy(() => import("./kit/page/KitPage").then((m) => ({ default: m.KitPage })))
  : null;

function Pages() {
  return (
    <Routes>
      <Route element={<InRoom />}>
        <Route path="/" element={<Studio />} />
        <Route path="/pieces/:id" element={<Bench />}>
          <Route index element={<Navigate to="subject" replace />} />
          <Route path="brief" element={<Brief />} />
          <Route path="subject" element={<Subject />} />
          <Route path="light" element={<Light />} />
          <Route path="lean-set" element={<LeanSet />} />
          <Route path="mixes" element={<Mixes />} />
          <Route path="studies" element={<Studies />} />
          <Route path="piece" element={<Piece />} />
          <Route path="box" element={<BoxStation />} />
        </Route>
        <Route path="/match" element={<MatchPage />} />
        <Route path="/journal" element={<Journal />} />
        <Route path="/journal/learnt" element={<Learnt />} />
        <Route path="/device" element={<Device />} />
        <Route path="/device/pieces/:id" element={<DevicePiece />} />
        <Route path="/device/boxes/:id" element={<DeviceBox />} />
        <Route path="/pair" element={<Pair />} />
        <Route path="/keeping" element={<Keeping />} />
        <Route path="/guide" element={<Guide />} />
        <Route path="/guide/:page" element={<Guide />} />
        <Route path="/drills" element={<Drills />} />
        <Route path="/field" element={<FieldNotes />} />
        <Route path="/field/:id" element={<FieldNote />} />
        {KitPage && <Route path="/kit" element={<KitPage />} />}
        <Route path="*" element={<Navigate to="/" replace />} />
      </Route>
    </Routes>
  );
}

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <MantineProvider theme={theme} forceColorScheme="light">
        <QueryClientProvider client={queries}>
          <NoticeProvider>
            {/* Without transitions: a key pressed right after another must find what the first one chose. */}
            <BrowserRouter useTransitions={false}>
              {/* Within: an address that changes while a page is fetched is heard. */}
              <Suspense fallback={null}>
                <Pages />
              </Suspense>
            </BrowserRouter>
            <NoticeLine />
          </NoticeProvider>
        </QueryClientProvider>
      </MantineProvider>
    </StrictMode>,
  );
}
