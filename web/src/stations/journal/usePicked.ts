import { useCallback, useEffect, useState } from "react";
import type { EntryView } from "../../api/useJournal";

/** A piece, and which of its studies; none for the piece itself. */
export type Place = { piece: number; study: number | null; title: string };

/** Where an entry stands that can be printed, lent or served by a set; none for the others. */
export function placeOf(e: EntryView): Place | null {
  if (e.source.kind !== "piece" || !["study", "piece", "set"].includes(e.entry.kind)) return null;
  return { piece: e.source.id, study: e.entry.kind === "study" ? e.entry.number : null, title: e.entry.of };
}

const KEPT = "journal-picked";
const kept = (): Place[] => JSON.parse(sessionStorage.getItem(KEPT) ?? "[]");

/** Entries set aside for a booklet or a common set. They stay over a reload, and go with the window. */
export function usePicked() {
  const [all, setAll] = useState<Place[]>(kept);
  useEffect(() => sessionStorage.setItem(KEPT, JSON.stringify(all)), [all]);
  const has = useCallback(
    (e: EntryView) => {
      const p = placeOf(e);
      return !!p && all.some((o) => o.piece === p.piece && o.study === p.study);
    },
    [all],
  );
  const turn = (e: EntryView) => {
    const p = placeOf(e);
    if (!p) return;
    setAll((now) => {
      const without = now.filter((o) => o.piece !== p.piece || o.study !== p.study);
      return without.length < now.length ? without : [...now, p];
    });
  };
  return { all, has, turn, none: () => setAll([]) };
}

export type PickedSet = ReturnType<typeof usePicked>;
