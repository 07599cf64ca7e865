import { Link, NavLink, useSearchParams } from "react-router";
import { Hint } from "../kit/Hint";
import { useStudio } from "../lenses/stroke/useGround";
import { useBench } from "./context";
import styles from "./Run.module.css";
import { mediumName, STATIONS } from "./stations";
import { useUndo } from "./useUndo";

/** The stations in the order of work. Any can be opened at any time. */
export function Run({ onHelp, onMatch }: { onHelp: () => void; onMatch: () => void }) {
  const { view, box, boxComes } = useBench();
  const [search] = useSearchParams();
  const { undo, redo } = useUndo();
  const home = useStudio().data?.home;
  const kept = new URLSearchParams([...search].filter(([k]) => k === "zone"));
  const owned = box ? box.pigments.filter((p) => !p.white).length : null;
  const mixed = ["oil", "watercolour"].includes(view.piece.brief.medium);
  const to = (name: string) => ({ pathname: `/pieces/${view.id}/${name}`, search: kept.toString() });
  return (
    <header className={styles.run}>
      <div className={styles.piece}>
        <h1>
          <Link to="/" title="Back to the studio">
            {view.piece.brief.title}
          </Link>
        </h1>
        <p>
          {mediumName(view.piece.brief.medium)}
          {home && (
            <>
              {", "}
              <a href={home}>leave the demo</a>
            </>
          )}
        </p>
      </div>
      <nav className={styles.stations} aria-label="Stations">
        {STATIONS.map((s) => (
          <NavLink key={s.name} to={to(s.name)} className={styles.station} aria-keyshortcuts={s.key}>
            <b>{s.label}</b>
            <span>{s.knows(view, owned)}</span>
          </NavLink>
        ))}
      </nav>
      <div className={styles.side}>
        <Hint says={view.undo ? `Undo ${view.undo} (Ctrl+Z)` : "Nothing to undo"}>
          <button type="button" className="plain" onClick={undo} disabled={!view.undo}>
            Undo
          </button>
        </Hint>
        <Hint says={view.redo ? `Redo ${view.redo} (Ctrl+Shift+Z)` : "Nothing to redo"}>
          <button type="button" className="plain" onClick={redo} disabled={!view.redo}>
            Redo
          </button>
        </Hint>
        <NavLink to={to("box")} className={styles.station}>
          <b>Box</b>
          <span>{box ? `${box.pigments.filter((p) => !p.second).length} in it` : boxComes ? "…" : "none chosen"}</span>
        </NavLink>
        {!!owned && (
          <Hint says={`${mixed ? "How do I mix this?" : "Which of mine is this?"} (q)`}>
            <button type="button" className="plain" onClick={onMatch}>
              Match
            </button>
          </Hint>
        )}
        <Hint says="Keys (?)">
          <button type="button" className="plain" onClick={onHelp} aria-label="Keys">
            ?
          </button>
        </Hint>
      </div>
    </header>
  );
}
