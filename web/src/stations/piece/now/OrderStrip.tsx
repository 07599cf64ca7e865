import { useState } from "react";
import { type AtTheEasel, keyOf, sameTask, type TaskId, type TaskLine } from "../../../api/useEasel";
import { seen, useBench, useLooking } from "../../../bench/context";
import { dayWord, lasting, minutesWord, shortDay } from "../lasting";
import styles from "./Now.module.css";
import { useTask } from "./useTask";

/** Pixels to a minute, and the least width of a task. */
const MINUTE = 2.6;
const LEAST = 26;
/** Minutes of drying drawn under a task; longer ones lie between sessions. */
const SHOWN = 240;

type SessionPlan = AtTheEasel["sessions"]["sessions"][number];

/** All that is left in time: sessions with their tasks as long as they take, drying as its own length. A task dragged onto another goes before it. */
export function OrderStrip({ at }: { at: AtTheEasel }) {
  const { sessions, finished, late_days } = at.sessions;
  const done = at.tasks.filter((t) => t.done);
  const last = sessions[sessions.length - 1];
  return (
    <section className={styles.strip} aria-label="Order strip">
      {done.length > 0 && (
        <div className={styles.session}>
          <p>done</p>
          <ol>
            {done.map((t) => (
              <Block key={keyOf(t.id)} at={at} task={t} minutes={0} />
            ))}
          </ol>
        </div>
      )}
      {sessions.map((s, i) => (
        <Session key={s.on} at={at} session={s} before={sessions[i - 1]} />
      ))}
      {finished && (
        <div className={styles.end} data-late={late_days > 0}>
          {last && last.on !== finished && <Drying from={last.on} to={finished} />}
          <p>
            {last?.on === finished ? "finished" : "dry"} {shortDay(finished)}
          </p>
        </div>
      )}
      {!finished && <p className={styles.end}>All is done.</p>}
    </section>
  );
}

const daysBetween = (a: string, b: string) => Math.round((Date.parse(b) - Date.parse(a)) / 86_400_000);

/** Days in which paint dries, drawn as their own length. */
function Drying({ from, to }: { from: string; to: string }) {
  const days = daysBetween(from, to);
  return (
    <span className={styles.drying} style={{ width: Math.min(160, 14 + 9 * days) }} title={`${days} days`}>
      <i />
      {days > 1 ? `${days} days` : ""}
    </span>
  );
}

function Session({ at, session, before }: { at: AtTheEasel; session: SessionPlan; before?: SessionPlan }) {
  return (
    <>
      {before && <Drying from={before.on} to={session.on} />}
      <div className={styles.session}>
        <p title={dayWord(session.on, "long")}>
          {shortDay(session.on)} <span className="figures">{minutesWord(session.minutes)}</span>
          {session.waits > 0 && <i>, {lasting(session.waits)} of waiting</i>}
        </p>
        <ol>
          {session.slots.map((slot, i) => {
            const task = at.tasks.find((t) => sameTask(t.id, slot.task));
            const earlier = session.slots[i - 1];
            const idle = slot.begins - (earlier ? earlier.begins + earlier.minutes : 0);
            return (
              task && (
                <Block
                  key={`${keyOf(slot.task)}${slot.begins}`}
                  at={at}
                  task={task}
                  minutes={slot.minutes}
                  idle={idle}
                />
              )
            );
          })}
        </ol>
      </div>
    </>
  );
}

/** One task on the strip: its colour, its zone, how long it takes, and under it how long it stays wet. */
function Block({ at, task, minutes, idle = 0 }: { at: AtTheEasel; task: TaskLine; minutes: number; idle?: number }) {
  const { changes } = useBench();
  const { look } = useLooking();
  const { task: shown, choose } = useTask(at);
  const [over, setOver] = useState(false);
  const colour = useColour(at, task);
  const visible = task.id.zone ?? SHEET[task.id.stage] ?? "·";
  const wet = task.drying.beside || task.drying.over;
  const drop = (text: string) => {
    setOver(false);
    const moved = at.tasks.find((t) => keyOf(t.id) === text);
    if (moved && moved !== task) changes.request({ do: "put-task-before", task: moved.id, before: task.id });
  };
  return (
    <li style={{ marginLeft: idle * MINUTE }}>
      <button
        type="button"
        className={styles.block}
        style={{ minWidth: Math.max(LEAST, minutes * MINUTE), background: colour ? seen(colour, look) : undefined }}
        data-light={colour ? colour.value > 5 : undefined}
        data-over={over}
        aria-pressed={sameTask(shown?.id, task.id)}
        aria-label={`${visible}: ${task.title}, ${task.done ? "done" : minutesWord(minutes)}`}
        title={`${task.title}, ${minutesWord(task.minutes)}`}
        draggable={!task.done}
        onDragStart={(e) => e.dataTransfer.setData("text/plain", keyOf(task.id))}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          drop(e.dataTransfer.getData("text/plain"));
        }}
        onClick={() => choose(task.id)}
      >
        {visible}
      </button>
      {!task.done && wet > 0 && wet < SHOWN && (
        <i className={styles.wet} style={{ width: Math.min(60, wet * MINUTE) }} />
      )}
    </li>
  );
}

/** A letter for what is done to all of the sheet. */
const SHEET: Partial<Record<TaskId["stage"], string>> = {
  "ground-tone": "tone",
  drawing: "draw",
  "lay-in": "lay in",
  glaze: "glaze",
  guard: "fix",
};

/** What a task leaves: the colour of its zone in the end. */
function useColour(at: AtTheEasel, task: TaskLine) {
  const last = at.looks[at.looks.length - 1];
  return task.id.zone ? last?.zones.find((z) => z.zone === task.id.zone)?.mark : undefined;
}
