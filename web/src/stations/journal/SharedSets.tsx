import { useState } from "react";
import type { SharedSet } from "../../api/useJournal";
import { Act } from "../../kit/Act";
import { Acts, Note } from "../../kit/Section";
import { said } from "../../room/figures";

/** The proved sets that serve several pieces, size by size, and what each piece loses. */
export function SharedSets({ of, without = [] }: { of: SharedSet[]; without?: string[] }) {
  const [size, setSize] = useState<number | null>(null);
  const shown = of.find((s) => s.pigments.length === size) ?? of.find((s) => s.pigments.length === 5) ?? of.at(-1);
  if (!shown) return <Note>No set can be found for these.</Note>;
  return (
    <>
      <Acts>
        {of.map((s) => (
          <Act
            key={s.pigments.length}
            pressed={s === shown}
            onDo={() => setSize(s.pigments.length)}
            label={`${s.pigments.length} pigments`}
          >
            {s.pigments.length}
          </Act>
        ))}
      </Acts>
      <p>
        {shown.names.join(", ")}
        {shown.proved ? "" : " (not every set was tried)"}
      </p>
      {without.length > 0 && <Note>without {without.join(", ")}</Note>}
      <ul>
        {shown.losses.map((l) => (
          <li key={l.piece}>
            {l.title} {said(l.words)}
          </li>
        ))}
      </ul>
    </>
  );
}
