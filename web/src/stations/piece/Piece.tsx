import { Link } from "react-router";
import { Station } from "../../bench/Bench";
import { useBench, zoneName } from "../../bench/context";
import { Plan } from "../../lenses/picture/Plan";
import { useGround } from "../../lenses/stroke/useGround";
import { LogCard, minutesWord } from "./LogCard";
import styles from "./Piece.module.css";

/** The piece itself: in which order it is laid, how far it is, and what was done when. */
export function Piece() {
  return <Station name="Piece" surface={<Surface />} card={<LogCard />} />;
}

function Surface() {
  const bench = useBench();
  const { view, look } = bench;
  const ground = useGround();
  const { mixes, order } = view.derived;
  if (!view.derived.shapes.length) {
    return (
      <p className={styles.first}>
        There are no zones to lay yet. <Link to="../subject">Begin with the subject.</Link>
      </p>
    );
  }
  const worked = new Set(view.piece.sessions.flatMap((s) => s.zones));
  const laid = view.derived.shapes
    .filter((s) => worked.has(s.zone))
    .map((s) => [s.zone, mixes.find((m) => m.zone === s.zone)?.given ?? s.target] as const);
  return (
    <div className={styles.surface}>
      <div className={styles.plan}>
        <Plan marks={new Map(laid)} ground={ground} look={look} label="The piece so far" outlined />
      </div>
      <div className={styles.order}>
        <h2>Order of work</h2>
        <p>{order.words}</p>
        <ol>
          {order.zones.map((z) => (
            <li key={z}>
              <button
                type="button"
                className="plain"
                aria-pressed={bench.zone === z}
                onClick={() => bench.selectZone(z)}
              >
                <span className="figures">{z}</span> {zoneName(view, z)}
                {worked.has(z) && <i>laid</i>}
              </button>
            </li>
          ))}
        </ol>
        <p className={styles.total}>
          {view.piece.sessions.length
            ? `${minutesWord(total(view.piece.sessions))} in ${view.piece.sessions.length} ${view.piece.sessions.length === 1 ? "session" : "sessions"}`
            : "Nothing logged yet"}
          {view.piece.intent.minutes ? `, of ${minutesWord(view.piece.intent.minutes)} it may take` : ""}.
        </p>
      </div>
    </div>
  );
}

const total = (sessions: { minutes: number }[]) => sessions.reduce((sum, s) => sum + s.minutes, 0);
