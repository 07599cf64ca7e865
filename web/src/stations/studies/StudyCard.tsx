import type { Study, StudyNote } from "../../api/client";
import { capital, useBench } from "../../bench/context";
import { useNotice } from "../../bench/notice";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import styles from "./Studies.module.css";

/** One study: whether its values hold, its own set, and whether it goes on. */
export function StudyCard({ study, note }: { study: Study; note: StudyNote }) {
  const { view, box, changes, zone } = useBench();
  const { say } = useNotice();
  const ground = useGround();
  const chosen = view.piece.chosen_study === study.slot;
  const at = study.mixes.findIndex((m) => m.zone === zone);
  const choose = () =>
    changes
      .request({ do: "choose-study", slot: chosen ? null : study.slot })
      .then((done) => done && say(chosen ? "No study is chosen now." : `Study ${study.slot} goes on.`));
  const use = () =>
    changes
      .request({ do: "choose-set", pigments: study.pigments })
      .then((done) => done && say(`The tray holds the set of study ${study.slot}.`));
  return (
    <div className={styles.card}>
      <h2>
        {study.slot} · {note.scheme}
      </h2>
      <p className={styles.said}>
        {note.values_held
          ? "Values held within a quarter step."
          : `The worst value is ${note.most_off.toFixed(1)} steps off: this Box cannot hold it.`}
      </p>
      {note.order_lost.map((words) => (
        <p key={words} className={styles.stale}>
          {capital(words)}
        </p>
      ))}
      <ul className={styles.members}>
        {study.pigments.map((id) => {
          const p = box?.pigments.find((q) => q.id === id);
          return (
            <li key={id}>
              {p && <Stroke marks={[p.mark]} ground={ground} height={24} />}
              <span>{p?.name ?? id}</span>
            </li>
          );
        })}
      </ul>
      <p className={styles.small}>
        Its own exact set of {study.pigments.length}; mean miss <span className="figures">{study.cost.toFixed(2)}</span>
        .
      </p>
      {at >= 0 && (
        <div className={styles.zone}>
          <Stroke marks={[note.wanted[at], note.marks[at]]} ground={ground} height={56} label="Wished for, and mixed" />
          <p>{note.sentences[at]}</p>
        </div>
      )}
      <button type="button" className={chosen ? "act" : "act main"} onClick={choose}>
        {chosen ? "Take the choice back" : "Choose this study"}
      </button>
      <button type="button" className="act" onClick={use}>
        Lay its set in the tray
      </button>
    </div>
  );
}
