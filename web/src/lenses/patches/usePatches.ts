import { useState } from "react";
import { answer, api, asProblem, Refused, type Schemas } from "../../api/client";
import { useNotice } from "../../bench/notice";

export type Patch = Schemas["PatchView"] & {
  /** Left out: it stays on the photo and is not taken. */
  off: boolean;
};
type Place = Schemas["PhotoRect"];
type Spot = Schemas["Spot"];

/** A photo of swatches, the grey card on it, and its cells. */
export function usePatches() {
  const { tell } = useNotice();
  const [photo, setPhoto] = useState<Schemas["KeptPhoto"] | null>(null);
  const [grey, setGrey] = useState<Spot | null>(null);
  const [patches, setPatches] = useState<Patch[]>([]);
  const [busy, setBusy] = useState(false);
  const ask = async (digest: string, at: Spot | null, cells: Place[] | null) => {
    setBusy(true);
    try {
      return await answer(api.POST("/api/photo-patches", { body: { photo: digest, grey: at, cells } }));
    } catch (e) {
      tell(e);
      return null;
    } finally {
      setBusy(false);
    }
  };
  const find = async (digest: string, at: Spot | null) => {
    const found = await ask(digest, at, null);
    if (found) setPatches(found.map((p) => ({ ...p, off: p.guessed })));
  };
  /** Reads cells anew; what was left out stays so. */
  const reread = async (digest: string, at: Spot | null, cells: { place: Place; off: boolean }[]) => {
    const read = await ask(
      digest,
      at,
      cells.map((c) => c.place),
    );
    if (read) setPatches(read.map((p, i) => ({ ...p, off: cells[i].off })));
    return read !== null;
  };
  return {
    photo,
    grey,
    patches,
    busy,
    /** Keeps a photo and finds its patches. */
    take: async (file: File) => {
      setBusy(true);
      try {
        const r = await fetch("/api/field-notes/photo", {
          method: "POST",
          body: file,
          headers: { "content-type": "application/octet-stream" },
        });
        const kept = await r.json();
        if (!r.ok) throw new Refused(asProblem(kept));
        setPhoto(kept);
        setGrey(null);
        setPatches([]);
        await find(kept.digest, null);
      } catch (e) {
        tell(e);
        setBusy(false);
      }
    },
    /** Says where a grey card lies; nothing takes it back. */
    pointGrey: async (at: Spot | null) => {
      if (!photo) return;
      const holds = ({ place }: Patch) =>
        at && at.x >= place.x && at.x <= place.x + place.width && at.y >= place.y && at.y <= place.y + place.height;
      const done = await reread(
        photo.digest,
        at,
        patches.filter((p) => !holds(p)),
      );
      if (done) setGrey(at);
    },
    toggle: (i: number) => setPatches(patches.map((p, n) => (n === i ? { ...p, off: !p.off } : p))),
    move: (i: number, place: Place) =>
      photo &&
      reread(
        photo.digest,
        grey,
        patches.map((p, n) => (n === i ? { ...p, place } : p)),
      ),
    /** A cell of the usual size where nothing was found. */
    add: (at: Spot) => {
      if (!photo) return;
      const usual = (of: (p: Place) => number, otherwise: number) => {
        const all = patches.map((p) => of(p.place)).sort((a, b) => a - b);
        return all[Math.floor(all.length / 2)] ?? otherwise;
      };
      const width = usual((p) => p.width, 0.06);
      const height = usual((p) => p.height, 0.06 * photo.proportion);
      const within = (middle: number, size: number) => Math.min(1 - size, Math.max(0, middle - size / 2));
      const place = { x: within(at.x, width), y: within(at.y, height), width, height };
      return reread(photo.digest, grey, [...patches, { place, off: false }]);
    },
  };
}
