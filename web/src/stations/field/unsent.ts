import { useSyncExternalStore } from "react";
import { api, type Schemas } from "../../api/client";

/** A note that was written while nobody answered. Its name makes sure that it is kept once, however often it is sent. */
export type Unsent = { sent_as: string; note: Schemas["FieldNote"]; refused?: string };

const KEY = "unsent-notes";
const listeners = new Set<() => void>();

let text = localStorage.getItem(KEY) ?? "[]";
let notes: Unsent[] = JSON.parse(text);

function keep(next: Unsent[]) {
  notes = next;
  text = JSON.stringify(next);
  localStorage.setItem(KEY, text);
  for (const l of listeners) l();
}

/** Writes a note down on this device, or over what it was. */
export const writeDown = (note: Unsent) => keep([...notes.filter((n) => n.sent_as !== note.sent_as), note]);

export const throwAway = (sent_as: string) => keep(notes.filter((n) => n.sent_as !== sent_as));

/** Sends everything that waits, one after the other. What is refused stays, with the reason. True when something arrived. */
export async function sendWaiting(): Promise<boolean> {
  let arrived = false;
  for (const waiting of notes.filter((n) => n.note.words || n.note.light || n.note.weather)) {
    const { sent_as, note } = waiting;
    try {
      const { response, error } = await api.POST("/api/field-notes", { params: { query: { sent_as } }, body: note });
      if (response.ok) {
        // What was added while it was under way is not lost: it waits on.
        if (notes.find((n) => n.sent_as === sent_as)?.note === note) throwAway(sent_as);
        arrived = true;
      } else if (error) writeDown({ ...waiting, refused: error.detail });
    } catch {
      return arrived;
    }
  }
  return arrived;
}

/** Notes that wait on this device. */
export function useUnsent(): Unsent[] {
  return useSyncExternalStore(
    (changed) => {
      listeners.add(changed);
      return () => listeners.delete(changed);
    },
    () => notes,
  );
}

/** A name no other note has. Secure pages alone have `randomUUID`. */
export const newName = () =>
  [...crypto.getRandomValues(new Uint8Array(16))].map((b) => b.toString(16).padStart(2, "0")).join("");
