import { lazy, Suspense, useCallback, useEffect, useState } from "react";
import { Link, Outlet, useLocation, useParams } from "react-router";
import { Refused } from "../api/client";
import { usePiece } from "../api/usePiece";
import { Field } from "../lenses/field/Field";
import { useStudio } from "../lenses/stroke/useGround";
import styles from "./Bench.module.css";
import { useBench } from "./context";
import { FindingsList } from "./Findings";
import { useNotice } from "./notice";
import { OnTheBench } from "./OnTheBench";
import { Pinned } from "./Pinned";
import { Run } from "./Run";
import { Tray } from "./Tray";
import { useBenchKeys } from "./useBenchKeys";

// The guide and its pictures come with it: only once somebody asks.
const KeysHelp = lazy(() => import("./KeysHelp").then((m) => ({ default: m.KeysHelp })));
const MatchDialog = lazy(() => import("../stations/match/MatchDialog").then((m) => ({ default: m.MatchDialog })));

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
  if (!piece.data) return <main className={styles.lost} aria-busy="true" />;
  return (
    <OnTheBench id={id} view={piece.data}>
      <Frame />
    </OnTheBench>
  );
}

function Frame() {
  const { title } = useBench().view.piece.brief;
  const [help, setHelp] = useState(false);
  // Once opened it stays: closing it gives the focus back to where it was.
  const [asked, setAsked] = useState(false);
  if (help && !asked) setAsked(true);
  useTroubles();
  const [match, setMatch] = useState(false);
  const [matched, setMatched] = useState(false);
  if (match && !matched) setMatched(true);
  const openMatch = useCallback(() => setMatch(true), []);
  useBenchKeys(
    useCallback(() => setHelp((h) => !h), []),
    openMatch,
  );
  useEffect(() => {
    document.title = `${title} · Lean Swatch`;
  }, [title]);
  return (
    <>
      <div className={styles.bench}>
        <Run onHelp={() => setHelp(true)} onMatch={openMatch} />
        <section className={styles.field} aria-label="Field">
          <Field />
        </section>
        {/* Within: the bench stays while the room of a station is fetched. */}
        <Suspense fallback={null}>
          <Outlet />
        </Suspense>
        <Tray />
      </div>
      <Suspense>
        {asked && <KeysHelp opened={help} onClose={() => setHelp(false)} />}
        {matched && <MatchDialog opened={match} onClose={() => setMatch(false)} />}
      </Suspense>
    </>
  );
}

/** Says on the bench what is wrong with the data file or its backups, each once. */
function useTroubles() {
  const { say } = useNotice();
  const trouble = useStudio().data?.troubles[0];
  useEffect(() => {
    if (trouble) say(trouble, "problem");
  }, [trouble, say]);
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
        <Pinned />
        {showFindings ? <FindingsList /> : card}
      </aside>
    </>
  );
}
