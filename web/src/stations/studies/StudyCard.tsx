import { NumberInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas, Study, StudyNote } from "../../api/client";
import { capital, shownHere, useBench, useSelection, zoneName } from "../../bench/context";
import { useNotice } from "../../bench/notice";
import { TextAreaField } from "../../kit/DraftFields";
import { Card } from "../../kit/Section";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { figure, said } from "../../room/figures";
import { Clock } from "./Clock";
import { Lamps } from "./Lamps";
import { Strip } from "./Strip";
import styles from "./Studies.module.css";

/** One study: whether its values hold, its own set, why it is chosen, and going on with it. */
export function StudyCard({ study, note }: { study: Study; note: StudyNote }) {
  const { box } = useBench();
  const { zone } = useSelection();
  const ground = useGround();
  const at = study.mixes.findIndex((m) => m.zone === zone);
  return (
    <Card>
      <h2>
        <span className="figures">{study.number}</span> {capital(note.scheme)}
      </h2>
      <p className={styles.said}>
        {note.values_held
          ? study.scheme.kind === "light"
            ? "It holds the values of its own plan."
            : "Values held within a quarter step."
          : `The worst value is ${figure(note.most_off, 1)} steps off: this Box cannot hold it.`}
      </p>
      {note.order_lost.length > 0 && <Lost words={note.order_lost} />}
      <ul className={styles.measures} aria-label="What makes it differ">
        {note.measures.map((m) => (
          <li key={m}>{said(m)}</li>
        ))}
      </ul>
      {note.moved && <p className={styles.stale}>With the pigments as they are known now: {said(note.moved)}</p>}
      <Beyond study={study} note={note} />
      {at >= 0 && (
        <div className={styles.zone}>
          <Stroke marks={[note.wanted[at], note.marks[at]]} ground={ground} height={48} label="Wanted, and mixed" />
          <p>{note.sentences[at]}</p>
        </div>
      )}
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
        Its own exact set of {study.pigments.length}; average error{" "}
        <span className="figures">{figure(study.cost, 1)}</span>.
      </p>
      <GoOn study={study} />
      <Strip study={study} />
      <Lamps study={study} />
      {TURNS.includes(study.scheme.kind) && <Turn number={study.number} />}
      {note.shares.length > 0 && <Shares number={study.number} hues={note.shares} />}
      <Kept study={study} note={note} />
    </Card>
  );
}

/** Which of its colours this screen cannot show. */
function Beyond({ study, note }: { study: Study; note: StudyNote }) {
  const { view } = useBench();
  const lost = study.mixes.filter((_, i) => !shownHere(note.marks[i])).map((m) => zoneName(view, m.zone));
  if (!lost.length) return null;
  return (
    <p className={styles.small}>
      Stronger in paint than this screen shows: {lost.slice(0, 4).join(", ")}
      {lost.length > 4 ? ` and ${lost.length - 4} more` : ""}.
    </p>
  );
}

/** Neighbours whose order of warm and cool is lost: how many, and which on request. */
function Lost({ words }: { words: string[] }) {
  return (
    <details className={styles.stale}>
      <summary>
        {words.length === 1 ? words[0] : `${words.length} pairs of neighbours came out no warmer than they should.`}
      </summary>
      {words.length > 1 && words.map((w) => <p key={w}>{capital(w)}</p>)}
    </details>
  );
}

/** Schemes that name hues. */
const TURNS = ["one-hue", "opposites", "neighbours", "slide", "chord"];

/** All hues of the scheme turned together; left and right turn by 15 degrees, with Shift by 3. */
function Turn({ number }: { number: number }) {
  const { work } = useBench();
  const running = !!work.job;
  const by = (degrees: number) => !running && work.turnScheme(number, degrees);
  return (
    <fieldset
      className={styles.turn}
      onKeyDown={(e) => {
        const way = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (!way) return;
        e.preventDefault();
        by(way * (e.shiftKey ? 3 : 15));
      }}
    >
      <legend>Turn its hues (left and right; Shift for 3 degrees)</legend>
      <button type="button" className="act" disabled={running} onClick={() => by(-15)}>
        15° back
      </button>
      <button type="button" className="act" disabled={running} onClick={() => by(15)}>
        15° on
      </button>
    </fieldset>
  );
}

/** How much of the picture each hue should cover. */
function Shares({ number, hues }: { number: number; hues: Schemas["ShareLine"][] }) {
  const { work } = useBench();
  const now = hues.map((h) => Math.round(h.share * 100));
  const [wished, setWished] = useState<number[] | null>(null);
  const shares = wished ?? now;
  const moved = shares.some((s, i) => s !== now[i]);
  return (
    <fieldset className={styles.shares}>
      <legend>Shares of the picture, %</legend>
      {hues.map((h, i) => (
        <NumberInput
          key={h.name}
          label={h.name}
          min={0}
          max={100}
          step={5}
          value={shares[i]}
          onChange={(v) => setWished(shares.map((s, n) => (n === i ? Number(v) || 0 : s)))}
        />
      ))}
      <button
        type="button"
        className="act"
        disabled={!moved}
        onClick={() =>
          work
            .moveShares(
              number,
              hues.map((h, i) => ({ hue: h.hue, share: shares[i] / 100 })),
            )
            .then(() => setWished(null))
        }
      >
        Make it with these shares
      </button>
    </fieldset>
  );
}

/** One action makes the study the plan; the plan as it was stays as a study. */
function GoOn({ study }: { study: Study }) {
  const { view, changes } = useBench();
  const { say } = useNotice();
  const [more, setMore] = useState<number | string>(0);
  const goesOn = view.piece.chosen_study === study.number;
  const go = () =>
    changes
      .request({ do: "go-on", number: study.number, more: Number(more) > 0 ? Number(more) : null })
      .then(
        (done) =>
          done &&
          say(
            `Study ${study.number} is the plan now: its colours, its set in the tray. Undo brings the former plan back.`,
          ),
      );
  return (
    <div className={styles.goOn}>
      <button type="button" className="act main" onClick={go}>
        {goesOn ? "Use this study again" : "Use this study"}
      </button>
      <NumberInput label="Pigments more for the large piece, at most" min={0} max={6} value={more} onChange={setMore} />
      {Number(more) > 0 && (
        <p className={styles.small}>
          The scheme may be loosened: the set is locked, and Lean set says what each addition buys.
        </p>
      )}
    </div>
  );
}

/** Why it was chosen, and the minutes it took. */
function Kept({ study, note }: { study: Study; note: StudyNote }) {
  const { changes } = useBench();
  const keep = (change: Partial<Pick<Study, "reason" | "minutes" | "running_since">>) => {
    const { number, reason, minutes, running_since } = study;
    return changes.request({ do: "note-study", number, reason, minutes, running_since, ...change });
  };
  return (
    <>
      <TextAreaField
        label="Why this one, or why not"
        autosize
        minRows={1}
        maxLength={300}
        className={styles.reason}
        kept={study.reason}
        onKeep={(reason) => keep({ reason })}
      />
      <Clock study={study} note={note} onKeep={keep} />
    </>
  );
}
