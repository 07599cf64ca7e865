import { NativeSelect } from "@mantine/core";
import { useState } from "react";
import type { BoxView, Schemas } from "../../api/client";
import { CARD_KINDS } from "../../api/words";
import { useBench } from "../../bench/context";
import { Note, Section } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import { CardSheet } from "../../lenses/trial/CardSheet";

/** A test card: printed as empty cells, painted, photographed, read back. */
export function CardSection({ box }: { box: BoxView }) {
  const { view } = useBench();
  const [kind, setKind] = useState<Schemas["CardKind"]>("alone");
  const [page, setPage] = useState("1");
  const set = view.piece.chosen.pigments.filter((id) => box.pigments.some((p) => p.id === id));
  const [picked, setPicked] = useState<string[]>(set);
  const query = new URLSearchParams({ kind, ground: view.piece.brief.ground, page });
  if (picked.length) query.set("pigments", picked.join(","));
  return (
    <Section title="A test card">
      <NativeSelect
        label="What it tries"
        value={kind}
        data={CARD_KINDS.filter((k) => (box.medium === "oil" ? k.value === "alone" : k.value !== "chart"))}
        onChange={(e) => setKind(e.currentTarget.value as Schemas["CardKind"])}
      />
      <details>
        <summary>{picked.length ? `${picked.length} pigments` : "All pigments at hand"}</summary>
        {box.pigments
          .filter((p) => !p.white)
          .map((p) => (
            <Tick
              key={p.id}
              on={picked.includes(p.id)}
              onTick={(on) => setPicked(on ? [...picked, p.id] : picked.filter((id) => id !== p.id))}
            >
              {p.name}
            </Tick>
          ))}
      </details>
      <NativeSelect
        label="Page"
        value={page}
        data={["1", "2", "3", "4"]}
        onChange={(e) => setPage(e.currentTarget.value)}
      />
      <CardSheet box={box.id} query={query} />
      <Note>
        On the ground of the piece. Lay an 18 % grey card in its box. Cells that are smeared or in glare are kept and
        left out.
      </Note>
    </Section>
  );
}
