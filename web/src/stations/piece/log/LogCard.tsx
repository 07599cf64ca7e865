import { NumberInput, Textarea, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { type AtTheEasel, keyOf, localNow } from "../../../api/useEasel";
import { useBench, zoneName } from "../../../bench/context";
import { Act } from "../../../kit/Act";
import { Card, Note } from "../../../kit/Section";
import { dayWord, minutesWord } from "../lasting";
import { EndingPart } from "./Ending";
import styles from "./Log.module.css";

type Session = Schemas["Session"];

/** What was done when, and the session just ended. */
export function LogCard({ at }: { at: AtTheEasel | null }) {
  const { view, changes } = useBench();
  const { sessions, intent } = view.piece;
  const set = (next: (now: Session[]) => Session[]) =>
    changes.requestNow((v) => ({ do: "set-sessions", sessions: next(v.piece.sessions) }));
  const total = sessions.reduce((sum, s) => sum + s.minutes, 0);
  return (
    <Card>
      <h2>Sessions</h2>
      <Note>
        {sessions.length
          ? `${minutesWord(total)} in ${sessions.length} ${sessions.length === 1 ? "session" : "sessions"}`
          : "Nothing logged yet"}
        {intent.minutes ? `, of ${minutesWord(intent.minutes)} it may take` : ""}.
      </Note>
      <ol className={styles.sessions}>
        {sessions.map((s, i) => (
          <li key={`${s.on}-${i}`}>
            <b>{dayWord(s.on, "long")}</b>
            <span className="figures">{minutesWord(s.minutes)}</span>
            <button
              type="button"
              className="plain"
              aria-label={`Take session ${i + 1} off`}
              onClick={() => set((now) => now.filter((_, n) => n !== i))}
            >
              off
            </button>
            <p>
              {s.did} <Laid zones={s.zones} />
            </p>
          </li>
        ))}
      </ol>
      <NewSession at={at} />
      <EndingPart />
    </Card>
  );
}

function Laid({ zones }: { zones: number[] }) {
  const { view } = useBench();
  const known = zones.filter((z) => view.piece.zones.some((o) => o.id === z));
  return <i>{known.map((z) => zoneName(view, z)).join(", ")}</i>;
}

/** The session just ended, with what was done in it. It stays in the form when it is refused. */
function NewSession({ at }: { at: AtTheEasel | null }) {
  const { changes } = useBench();
  const [on, setOn] = useState(() => localNow().slice(0, 10));
  const [minutes, setMinutes] = useState<number | string>(60);
  const [did, setDid] = useState("");
  const [done, setDone] = useState<string[]>([]);
  const open = at?.tasks.filter((t) => !t.done && !t.later) ?? [];
  const log = () => {
    const tasks = open.filter((t) => done.includes(keyOf(t.id))).map((t) => t.id);
    const zones = [...new Set(tasks.flatMap((t) => (t.zone ? [t.zone] : [])))];
    const ended = on === localNow().slice(0, 10) ? localNow() : `${on}T20:00`;
    changes
      .request({ do: "log-session", session: { on, minutes: Number(minutes), did, zones }, tasks, at: ended })
      .then((ok) => {
        if (!ok) return;
        setDid("");
        setDone([]);
      });
  };
  return (
    <form
      className={styles.log}
      onSubmit={(e) => {
        e.preventDefault();
        log();
      }}
    >
      <div className={styles.two}>
        <TextInput type="date" label="On" value={on} onChange={(e) => setOn(e.currentTarget.value)} />
        <NumberInput label="Minutes" value={minutes} min={1} max={1440} allowDecimal={false} onChange={setMinutes} />
      </div>
      <Textarea
        label="What was done"
        value={did}
        maxLength={300}
        autosize
        minRows={2}
        onChange={(e) => setDid(e.currentTarget.value)}
      />
      {open.length > 0 && (
        <fieldset className={styles.zones}>
          <legend>Done in it</legend>
          {open.map((t) => (
            <label key={keyOf(t.id)}>
              <input
                type="checkbox"
                checked={done.includes(keyOf(t.id))}
                onChange={() =>
                  setDone((now) => {
                    const key = keyOf(t.id);
                    return now.includes(key) ? now.filter((k) => k !== key) : [...now, key];
                  })
                }
              />
              {t.id.zone ? `${t.id.zone} · ${t.title}` : t.title}
            </label>
          ))}
        </fieldset>
      )}
      <Act main submit>
        Log it
      </Act>
    </form>
  );
}
