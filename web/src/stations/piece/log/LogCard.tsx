import { NumberInput, Textarea, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { useBench, zoneName } from "../../../bench/context";
import { minutesWord } from "../lasting";
import styles from "./Log.module.css";

type Session = Schemas["Session"];

function today(): string {
  const now = new Date();
  const two = (n: number) => String(n).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}

/** What was done when, and the session just ended. */
export function LogCard() {
  const { view, changes } = useBench();
  const { sessions } = view.piece;
  const set = (next: (now: Session[]) => Session[]) =>
    changes.requestNow((v) => ({ do: "set-sessions", sessions: next(v.piece.sessions) }));
  return (
    <div className={styles.card}>
      <h2>Sessions</h2>
      {sessions.length === 0 && <p>Log what you did, and the picture shows how far the piece is.</p>}
      <ol className={styles.sessions}>
        {sessions.map((s, i) => (
          <li key={`${s.on}-${i}`}>
            <b>{new Date(`${s.on}T12:00`).toLocaleDateString(undefined, { dateStyle: "long" })}</b>
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
      <NewSession onLog={(s) => set((now) => [...now, s])} />
    </div>
  );
}

function Laid({ zones }: { zones: number[] }) {
  const { view } = useBench();
  const known = zones.filter((z) => view.piece.zones.some((o) => o.id === z));
  return <i>{known.map((z) => zoneName(view, z)).join(", ")}</i>;
}

/** The session just ended. It stays in the form when it is refused. */
function NewSession({ onLog }: { onLog: (s: Session) => Promise<unknown> }) {
  const { view } = useBench();
  const [on, setOn] = useState(today);
  const [minutes, setMinutes] = useState<number | string>(60);
  const [did, setDid] = useState("");
  const [zones, setZones] = useState<number[]>([]);
  const log = () =>
    onLog({ on, minutes: Number(minutes), did, zones }).then((done) => {
      if (!done) return;
      setDid("");
      setZones([]);
    });
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
      <fieldset className={styles.zones}>
        <legend>Zones laid or taken further</legend>
        {view.derived.order.zones.map((z) => (
          <label key={z}>
            <input
              type="checkbox"
              checked={zones.includes(z)}
              onChange={() => setZones((now) => (now.includes(z) ? now.filter((x) => x !== z) : [...now, z]))}
            />
            {zoneName(view, z)}
          </label>
        ))}
      </fieldset>
      <button type="submit" className="act main">
        Log it
      </button>
    </form>
  );
}
