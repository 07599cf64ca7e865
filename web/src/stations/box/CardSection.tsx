import { FileButton, NativeSelect } from "@mantine/core";
import { useState } from "react";
import type { BoxView, Schemas } from "../../api/client";
import { useReadings } from "../../api/useBox";
import { CARD_KINDS } from "../../api/words";
import { useBench } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Acts, Note, Section } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import { useStudio } from "../../lenses/stroke/useGround";

/** A test card: printed as empty cells, painted, photographed, read back. */
export function CardSection({ box }: { box: BoxView }) {
  const { view } = useBench();
  const { takeCard } = useReadings(box.id);
  const { simulates } = useStudio().data ?? {};
  const [kind, setKind] = useState<Schemas["CardKind"]>("alone");
  const [page, setPage] = useState("1");
  const set = view.piece.chosen.pigments.filter((id) => box.pigments.some((p) => p.id === id));
  const [picked, setPicked] = useState<string[]>(set);
  const query = new URLSearchParams({ kind, ground: view.piece.brief.ground, page });
  if (picked.length) query.set("pigments", picked.join(","));
  const base = `/api/boxes/${encodeURIComponent(box.id)}/card`;
  const simulated = async () => {
    const photo = await fetch(`${base}/photo?${query}`);
    if (photo.ok) takeCard(query, new File([await photo.blob()], "card.png"));
    else takeCard(query, new File([], "card.png"));
  };
  return (
    <Section title="A test card">
      <NativeSelect
        label="What it tries"
        value={kind}
        data={box.medium === "oil" ? CARD_KINDS.slice(0, 1) : CARD_KINDS}
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
      <Acts>
        <a href={`${base}.pdf?${query}`} target="_blank" rel="noreferrer">
          Print it (PDF)
        </a>
        <FileButton onChange={(f) => f && takeCard(query, f)} accept="image/*">
          {(props) => (
            <button type="button" className="act" {...props}>
              Read its photo
            </button>
          )}
        </FileButton>
        {simulates && <Act onDo={simulated}>Photograph it, simulated</Act>}
      </Acts>
      <Note>
        On the ground of the piece. Lay an 18 % grey card in its box. Cells that are smeared or in glare are kept and
        left out.
      </Note>
    </Section>
  );
}
