import { FileButton, NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Schemas } from "../../api/client";
import { useBench } from "../../bench/context";
import { Card } from "../../kit/Section";
import styles from "./Studies.module.css";

type Kind = Schemas["StudyKind"];

/** Which studies to make, and whose colours a further one may take. */
export function MakeCard() {
  const { view, work } = useBench();
  const made = view.piece.studies.length > 0;
  const kinds = useQuery({
    queryKey: ["study-kinds", view.id, view.revision],
    queryFn: () => answer(api.GET("/api/pieces/{id}/studies/kinds", { params: { path: { id: view.id } } })),
    placeholderData: (old) => old,
  });
  const [asked, setAsked] = useState<Kind[] | null>(null);
  const all = kinds.data ?? [];
  const ticked = asked ?? all.slice(0, view.piece.reference?.lines ? 9 : 6).map((k) => k.kind);
  const tick = (kind: Kind) =>
    setAsked(
      ticked.includes(kind)
        ? ticked.filter((k) => k !== kind)
        : all.map((k) => k.kind).filter((k) => k === kind || ticked.includes(k)),
    );
  const running = work.job?.what === "making studies";
  return (
    <Card>
      <h2>{made ? "Make new studies" : "Make studies"}</h2>
      <NativeSelect
        label="How many"
        value={String(ticked.length)}
        data={Array.from({ length: Math.min(12, all.length) }, (_, i) => String(i + 1))}
        onChange={(e) => setAsked(all.slice(0, Number(e.currentTarget.value)).map((k) => k.kind))}
      />
      <fieldset className={styles.kinds}>
        <legend>Schemes</legend>
        {all.map((k) => (
          <label key={k.kind}>
            <input type="checkbox" checked={ticked.includes(k.kind)} onChange={() => tick(k.kind)} /> {k.name}
          </label>
        ))}
      </fieldset>
      <button
        type="button"
        className="act main"
        disabled={running || !ticked.length || ticked.length > 12}
        onClick={() => work.makeStudies(ticked)}
      >
        Make {ticked.length === 1 ? "one study" : `${ticked.length} studies`}
      </button>
      <p className={styles.small}>
        Hues change, values stay; another light has its own values. Skin, sky, whites and greys stay believable.
      </p>
      <Lent />
    </Card>
  );
}

/** Colours of something else, laid on this piece as one more study. */
function Lent() {
  const { view, work } = useBench();
  const studio = useQuery({ queryKey: ["studio"], queryFn: () => answer(api.GET("/api/studio")) });
  const others = (studio.data?.pieces ?? []).filter((p) => (p.id === view.id ? p.studies > 0 : p.zones > 0));
  const [from, setFrom] = useState("");
  const [study, setStudy] = useState("");
  const own = from === String(view.id);
  const other = useQuery({
    queryKey: ["lender", from],
    queryFn: () => answer(api.GET("/api/pieces/{id}", { params: { path: { id: Number(from) } } })),
    enabled: from !== "",
  });
  const notes = other.data?.study_notes ?? [];
  return (
    <section className={styles.lent} aria-label="Colours from somewhere else">
      <h3>Colours from somewhere else</h3>
      {others.length > 0 && (
        <>
          <NativeSelect
            label="Another piece"
            value={from}
            onChange={(e) => {
              setFrom(e.currentTarget.value);
              setStudy("");
            }}
            data={[
              { value: "", label: "choose one" },
              ...others.map((p) => ({
                value: String(p.id),
                label: p.id === view.id ? `${p.title}, an earlier study` : p.title,
              })),
            ]}
          />
          {notes.length > 0 && (
            <NativeSelect
              label="Which of its colours"
              value={study}
              onChange={(e) => setStudy(e.currentTarget.value)}
              data={[
                { value: "", label: own ? "choose a study" : "those of its plan" },
                ...notes.map((n) => ({ value: String(n.number), label: `${n.number} ${n.scheme}` })),
              ]}
            />
          )}
          <button
            type="button"
            className="act"
            disabled={!from || (own && !study)}
            onClick={() => work.lend(Number(from), study ? Number(study) : null)}
          >
            Lay its colours here
          </button>
        </>
      )}
      <FileButton onChange={(file) => file && work.lendPicture(file)} accept="image/*">
        {(props) => (
          <button type="button" className="act" {...props}>
            Those of a picture: a painting, a fabric
          </button>
        )}
      </FileButton>
    </section>
  );
}
