import { useBench } from "../../bench/context";
import { printOf } from "../../lenses/picture/Planned";
import { said } from "../../room/figures";
import styles from "./Studies.module.css";
import { useOpenStudy } from "./useOpenStudy";

/** Every study hung on the photo of its wall, to scale. */
export function OnTheWall() {
  const { view } = useBench();
  const { select } = useOpenStudy();
  const { studies, wall } = view.piece;
  const hung = `${wall?.digest.slice(0, 8)}-${JSON.stringify(wall?.candidates[wall.taken ?? 0] ?? null).length}-${view.revision}`;
  // From so near that the panels take a third of what is seen.
  const taken = wall?.taken ?? 0;
  const corners = view.on_wall[taken]?.panels.flat() ?? [];
  const across = corners.length ? Math.max(...corners.map((c) => c.x)) - Math.min(...corners.map((c) => c.x)) : 1;
  const at = wall?.candidates[taken]?.at ?? { x: 0.5, y: 0.5 };
  const near = {
    transform: `scale(${Math.min(5, Math.max(1, 0.34 / across))})`,
    transformOrigin: `${100 * at.x}% ${100 * at.y}%`,
  };
  return (
    <div
      className={styles.all}
      role="group"
      aria-label="Studies on the wall"
      style={{ gridTemplateColumns: `repeat(${studies.length > 4 ? 3 : 2}, minmax(0, 1fr))` }}
    >
      {studies.map((s) => {
        const note = view.study_notes.find((n) => n.number === s.number);
        return (
          <button
            key={s.number}
            type="button"
            className={`plain ${styles.study}`}
            data-study={s.number}
            onClick={() => select(s.number)}
          >
            <span className={styles.wall} style={{ aspectRatio: `${wall?.width ?? 4} / ${wall?.height ?? 3}` }}>
              <img
                src={`/api/pieces/${view.id}/wall/mock-up?study=${s.number}&of=${printOf(s)}-${hung}`}
                alt={`Study ${s.number} on the wall: ${note?.scheme ?? ""}`}
                style={near}
              />
            </span>
            <b>
              <span className="figures">{s.number}</span> {note?.scheme}
            </b>
            <span className={styles.under}>{said(note?.measures.slice(4).join(" ") ?? "")}</span>
          </button>
        );
      })}
    </div>
  );
}
