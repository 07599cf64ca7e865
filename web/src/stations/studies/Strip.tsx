import type { Mark, PieceView, Study } from "../../api/client";
import { seen, useBench, useLooking, useSelection, zoneName } from "../../bench/context";
import styles from "./Studies.module.css";

/** The colours and recipes of a study, in the order of work. */
export function Strip({ study }: { study: Study }) {
  const { view } = useBench();
  const { zone, selectZone } = useSelection();
  const { look } = useLooking();
  const marks = marksOf(view, study);
  const note = view.study_notes.find((n) => n.number === study.number);
  const laid = view.derived.order.zones.flatMap((z) => study.mixes.find((m) => m.zone === z) ?? []);
  return (
    <ul className={styles.strip} aria-label={`Strokes and recipes of study ${study.number}`}>
      {laid.map((m) => (
        <li key={m.zone}>
          <button
            type="button"
            className={`plain ${styles.row}`}
            aria-pressed={zone === m.zone}
            onClick={() => selectZone(m.zone)}
          >
            <i style={{ background: marks.has(m.zone) ? seen(marks.get(m.zone) as Mark, look) : undefined }} />
            <span>
              <b>
                <span className="figures">{m.zone}</span> {zoneName(view, m.zone)}
              </b>
              <span>{note?.recipes[study.mixes.indexOf(m)]}</span>
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** The colour each zone has in a study. */
export function marksOf(view: PieceView, study: Study): Map<number, Mark> {
  const note = view.study_notes.find((n) => n.number === study.number);
  return new Map(study.mixes.flatMap((m, i) => (note?.marks[i] ? [[m.zone, note.marks[i]] as const] : [])));
}
