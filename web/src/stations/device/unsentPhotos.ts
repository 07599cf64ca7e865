import { createStore, del, entries, set } from "idb-keyval";
import { useSyncExternalStore } from "react";
import type { Problem } from "../../api/client";

/** A photo that was taken while nobody answered. Its moment and what is in it make sure that it is kept once, however often it is sent. */
export type UnsentPhoto = { piece: number; at: string; name: string; file: Blob; refused?: string };

const kept = createStore("unsent-photos", "photos");
const keyOf = (p: UnsentPhoto) => `${p.piece} ${p.at} ${p.name}`;
const listeners = new Set<() => void>();
let photos: UnsentPhoto[] = [];

function show(next: UnsentPhoto[]) {
  photos = next;
  for (const l of listeners) l();
}

/** What a browser that keeps nothing forgets when the page is closed, is sent all the same while it is open. */
const asFarAsItKeeps = (done: Promise<unknown>) => done.catch(() => undefined);

asFarAsItKeeps(entries<string, UnsentPhoto>(kept).then((found) => show([...found.map(([, p]) => p), ...photos])));

/** Keeps a photo on this device. */
export function keepPhoto(photo: UnsentPhoto) {
  show([...photos.filter((p) => keyOf(p) !== keyOf(photo)), photo]);
  return asFarAsItKeeps(set(keyOf(photo), photo, kept));
}

export function throwPhotoAway(photo: UnsentPhoto) {
  show(photos.filter((p) => keyOf(p) !== keyOf(photo)));
  return asFarAsItKeeps(del(keyOf(photo), kept));
}

/** Sends a photo of how a piece stands. Throws what nobody answers; what is refused comes back in words. */
export async function sendPhoto({ piece, at, name, file }: UnsentPhoto): Promise<string | null> {
  const query = new URLSearchParams({ at, file_name: name });
  const response = await fetch(`/api/pieces/${piece}/easel/photos?${query}`, {
    method: "PUT",
    body: file,
    headers: { "content-type": "application/octet-stream" },
  });
  return response.ok ? null : ((await response.json()) as Problem).detail;
}

/** Sends everything that waits, one after the other. What is refused stays, with the reason. True when something arrived. */
export async function sendPhotos(): Promise<boolean> {
  let arrived = false;
  for (const photo of photos.filter((p) => !p.refused)) {
    try {
      const refused = await sendPhoto(photo);
      if (refused) await keepPhoto({ ...photo, refused });
      else {
        await throwPhotoAway(photo);
        arrived = true;
      }
    } catch {
      return arrived;
    }
  }
  return arrived;
}

/** Photos that wait on this device. */
export const useUnsentPhotos = () =>
  useSyncExternalStore(
    (changed) => {
      listeners.add(changed);
      return () => listeners.delete(changed);
    },
    () => photos,
  );
