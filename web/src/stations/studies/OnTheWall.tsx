import { useBench } from "../../bench/context";
import { printOf } from "../../lenses/picture/Planned";
import styles from "./Studies.module.css";
import { useOpenStudy } from "./useOpenStudy";

/** Every study hung on the photo of its wall, to scale. */
export function OnTheWall() {
  const { view } = useBench();
  const { select } = useOpenStudy();
  const { studies, wall } = view.piece;
  const hung = `${wall?.digest.slice(0, 8)}-${JSON.stringify(wall?.candidates[wall.taken ?? 0] ?? null).length}-${view.revision}`;
  return (
    <div className={styles.all} role="group" aria-label="Studies on the wall" data-many={studies.length > 4}>
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
            <img
              className={styles.wall}
              src={`/api/pieces/${view.id}/wall/mock-up?study=${s.number}&of=${printOf(s)}-${hung}`}
              alt={`Study ${s.number} on the wall: ${note?.scheme ?? ""}`}
            />
            <b>
              <span className="figures">{s.number}</span> {note?.scheme}
            </b>
            <span className={styles.under}>{note?.measures.slice(4).join(" ")}</span>
          </button>
        );
      })}
    </div>
  );
}
