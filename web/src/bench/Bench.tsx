import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { Link, Outlet, useLocation, useParams, useSearchParams } from "react-router";
import { answer, api, Refused } from "../api/client";
import { useJob } from "../api/useJob";
import { useChanges, usePiece } from "../api/usePiece";
import { Field } from "../lenses/field/Field";
import styles from "./Bench.module.css";
import { BenchContext, type BenchState, type Look, type Peek, PreviewContext, type Previewed } from "./context";
import { FindingsList } from "./Findings";
import { KeysHelp } from "./KeysHelp";
import { Run } from "./Run";
import { Tray } from "./Tray";
import { useBenchKeys } from "./useBenchKeys";

const LOOKS: Look[] = ["as-it-is", "values", "warm-cool", "squint", "neighbours"];

/** The frame every station stands in: run, field, the station's own surface and card, tray. */
export function Bench() {
  const id = Number(useParams().id);
  const piece = usePiece(id);
  if (piece.isError) {
    return (
      <main className={styles.lost}>
        <h1>This piece cannot be shown</h1>
        <p>{piece.error instanceof Refused ? piece.error.problem.detail : "The server does not answer."}</p>
        <p>
          <Link to="/">Back to the studio</Link>
        </p>
      </main>
    );
  }
  return piece.data ? <Frame id={id} view={piece.data} /> : <main className={styles.lost} aria-busy="true" />;
}

function Frame({ id, view }: { id: number; view: BenchState["view"] }) {
  const bench = useBenchState(id, view);
  const [help, setHelp] = useState(false);
  const [preview, setPreview] = useState<Previewed>(null);
  const previewed = useMemo(() => ({ preview, setPreview }), [preview]);
  useBenchKeys(bench, () => setHelp((h) => !h));
  useEffect(() => {
    document.title = `${view.piece.brief.title} · Lean Swatch`;
  }, [view.piece.brief.title]);
  return (
    <BenchContext.Provider value={bench}>
      <PreviewContext.Provider value={previewed}>
        <div className={styles.bench}>
          <Run onHelp={() => setHelp(true)} />
          <section className={styles.field} aria-label="Field">
            <Field />
          </section>
          <Outlet />
          <Tray />
        </div>
      </PreviewContext.Provider>
      <KeysHelp opened={help} onClose={() => setHelp(false)} />
    </BenchContext.Provider>
  );
}

function useBenchState(id: number, view: BenchState["view"]): BenchState & { peekWith: (on: Peek) => void } {
  const changes = useChanges(id);
  const work = useJob(id);
  const [search, setSearch] = useSearchParams();
  const [peek, setPeek] = useState<Peek>(null);
  const [place, selectPlace] = useState(0);
  const [massesShown, showMasses] = useState(false);
  const [carried, carry] = useState<BenchState["carried"]>(null);
  const { paint_box: boxId, together } = view.piece;
  const beside = together ? { second: together.second, from: together.paint_box } : {};
  const box = useQuery({
    queryKey: ["box", boxId, ...Object.values(beside)],
    queryFn: () => answer(api.GET("/api/boxes/{id}", { params: { path: { id: boxId ?? "" }, query: beside } })),
    enabled: !!boxId,
  });
  const put = useCallback(
    (name: string, value: string | null) =>
      setSearch(
        (old) => {
          const next = new URLSearchParams(old);
          if (value === null) next.delete(name);
          else next.set(name, value);
          return next;
        },
        // At once: a key pressed right after another must find what the first one chose.
        { replace: true, flushSync: true },
      ),
    [setSearch],
  );
  const asked = Number(search.get("zone"));
  const zone = view.piece.zones.some((z) => z.id === asked) ? asked : null;
  const look = LOOKS.find((l) => l === search.get("look")) ?? "as-it-is";
  const groups = Number(search.get("groups")) || null;
  return useMemo(
    () => ({
      view,
      box: box.data ?? null,
      boxComes: box.isLoading,
      changes,
      work,
      zone,
      selectZone: (z) => {
        selectPlace(0);
        put("zone", z === null ? null : String(z));
      },
      place,
      selectPlace,
      carried,
      carry,
      massesShown,
      showMasses,
      pigment: search.get("pigment"),
      selectPigment: (p) => put("pigment", p),
      look,
      setLook: (l) => put("look", l === "as-it-is" ? null : l),
      groups,
      setGroups: (g) => put("groups", g === null ? null : String(g)),
      isolate: search.get("isolate") === "1",
      setIsolate: (on) => put("isolate", on ? "1" : null),
      flat: search.get("flat") === "1",
      setFlat: (on) => put("flat", on ? "1" : null),
      peek,
      peekWith: setPeek,
    }),
    [view, box.data, box.isLoading, changes, work, zone, look, groups, search, put, peek, place, carried, massesShown],
  );
}

/** A station: its surface in the middle and the card of the one thing selected. */
export function Station({ name, surface, card }: { name: string; surface: React.ReactNode; card: React.ReactNode }) {
  const showFindings = new URLSearchParams(useLocation().search).get("findings") === "1";
  return (
    <>
      <main className={styles.surface} aria-label={name}>
        {surface}
      </main>
      <aside className={styles.card} aria-label="Card">
        {showFindings ? <FindingsList /> : card}
      </aside>
    </>
  );
}
