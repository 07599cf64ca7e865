import { Textarea, TextInput } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { useSending } from "../device/useSending";
import styles from "./Field.module.css";
import { notesKey } from "./notes";
import { sendWaiting, throwAway, type Unsent, useUnsent, writeDown } from "./unsent";

/** Notes that wait on this device: they are written on here, and sent when somebody answers again. */
export function Waiting() {
  const unsent = useUnsent();
  const queries = useQueryClient();
  const waits = unsent.length > 0;
  const send = useCallback(
    () =>
      sendWaiting().then((arrived) => {
        if (arrived) queries.invalidateQueries({ queryKey: notesKey });
      }),
    [queries],
  );
  useSending(waits, send);
  if (!waits) return null;
  return (
    <section aria-labelledby="waiting" className={styles.waiting}>
      <h2 id="waiting">Waiting to be sent</h2>
      <p>The studio does not answer. What you write here stays on this device and is sent by itself.</p>
      {unsent.map((n) => (
        <Draft key={n.sent_as} waiting={n} />
      ))}
      <button type="button" className="act" onClick={send}>
        Try to send now
      </button>
    </section>
  );
}

function Draft({ waiting }: { waiting: Unsent }) {
  const set = (change: Partial<Unsent["note"]>) =>
    writeDown({ ...waiting, refused: undefined, note: { ...waiting.note, ...change } });
  const { note } = waiting;
  return (
    <div className={styles.draft}>
      <Textarea
        label={`What you see, ${new Date(note.at).toLocaleTimeString(undefined, { timeStyle: "short" })}`}
        value={note.words}
        maxLength={400}
        autosize
        minRows={2}
        onChange={(e) => set({ words: e.currentTarget.value })}
      />
      <TextInput
        label="Light"
        value={note.light}
        maxLength={80}
        onChange={(e) => set({ light: e.currentTarget.value })}
      />
      <TextInput
        label="Weather"
        value={note.weather}
        maxLength={80}
        onChange={(e) => set({ weather: e.currentTarget.value })}
      />
      {waiting.refused && <p role="alert">{waiting.refused}</p>}
      <button type="button" className="act" onClick={() => throwAway(waiting.sent_as)}>
        Throw this one away
      </button>
    </div>
  );
}
