import { NativeSelect, NumberInput, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Schemas } from "../../api/client";
import { useReadings } from "../../api/useBox";
import { useBench, useLooking } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Note, Section } from "../../kit/Section";
import { figure, said } from "../../room/figures";
import { Stroke } from "../stroke/Stroke";
import { useGround } from "../stroke/useGround";
import { Meter } from "./Meter";
import styles from "./Trials.module.css";

type For = { zone: number } | { cell: number };

/** What was tried for a zone or a cell of the chart, which way it went, and what to add to what lies there. */
export function Trials({ of }: { of: For }) {
  const { view, box } = useBench();
  const { look } = useLooking();
  const ground = useGround();
  const query = "zone" in of ? { zone: of.zone } : { cell: of.cell };
  const found = useQuery({
    queryKey: ["trials", view.id, query, view.revision],
    queryFn: () => answer(api.GET("/api/pieces/{id}/trials", { params: { path: { id: view.id }, query } })),
    enabled: box !== null,
    placeholderData: (old) => old,
  });
  const [open, setOpen] = useState(false);
  if (!box || !found.data) return null;
  const { trials, correction, wanted, next, next_layers } = found.data;
  return (
    <Section title="Trials">
      {trials.length > 0 && (
        <ol className={styles.trials}>
          {trials.map((t) => (
            <li key={t.reading}>
              <Stroke marks={[wanted, t.read]} ground={ground} height={30} look={look} label="Wanted, and as it read" />
              <span>
                <b>{t.mixed}</b>
                {t.dries_to ? "Dries to: " : ""}
                {said(t.sentence)} <span className="figures">{figure(t.difference, 1)}</span>
                {t.went && `, ${t.went}`}
              </span>
            </li>
          ))}
        </ol>
      )}
      {correction && (
        <div className={styles.next}>
          <p>
            <b>{said(correction.words)}</b>
          </p>
          {correction.anew && <p>Or mix it again: {correction.anew}.</p>}
          {(correction.add.length > 0 || correction.over.length > 0) && (
            <Stroke
              marks={[wanted, correction.becomes]}
              ground={ground}
              height={30}
              look={look}
              label="Wanted, and what it would become"
            />
          )}
        </div>
      )}
      {open ? (
        <NewTrial of={of} next={next ?? null} layers={next_layers} onDone={() => setOpen(false)} />
      ) : (
        <Act onDo={() => setOpen(true)}>{trials.length ? "Another trial" : "Test this mix"}</Act>
      )}
    </Section>
  );
}

/** What was really mixed, and what it reads. */
function NewTrial({
  of,
  next,
  layers,
  onDone,
}: {
  of: For;
  next: Schemas["Swatch"] | null;
  /** Its layers in words. */
  layers: string;
  onDone: () => void;
}) {
  const { view, box } = useBench();
  const { take } = useReadings(box?.id);
  const { medium, ground } = view.piece.brief;
  const [swatch, setSwatch] = useState<Schemas["Swatch"]>(next ?? { ground, parts: [], layers: [] });
  const [state, setState] = useState<Schemas["Dampness"]>("dry");
  const [typed, setTyped] = useState("");
  if (!box) return null;
  const keep = (from: Schemas["From"]) =>
    take({
      swatch,
      from,
      state,
      tried_for: { piece: view.id, zone: "zone" in of ? of.zone : null, cell: "cell" in of ? of.cell : null },
    }).then((done) => done && onDone());
  return (
    <>
      {medium === "oil" ? <Parts swatch={swatch} onChange={setSwatch} /> : <p>{layers}</p>}
      <NativeSelect
        label="It is"
        value={state}
        data={["dry", "damp", "wet"]}
        onChange={(e) => setState(e.currentTarget.value as Schemas["Dampness"])}
      />
      <Meter box={box.id} swatch={swatch} wet={state === "wet"} onRead={() => keep({ by: "meter" })} />
      <TextInput
        label="Or a colour typed in"
        placeholder="#33aa66 · 60 20 -10"
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
      />
      <p className={styles.acts}>
        <Act disabled={!typed.trim()} onDo={() => keep({ by: "typed", text: typed })}>
          Keep this colour
        </Act>
        <Act onDo={onDone}>Leave it</Act>
      </p>
      <Note>Trials also teach the pigments: the next recipes are better.</Note>
    </>
  );
}

/** The parts that were really taken, to be changed. */
function Parts({ swatch, onChange }: { swatch: Schemas["Swatch"]; onChange: (s: Schemas["Swatch"]) => void }) {
  const { view, box } = useBench();
  const name = (id: string) => box?.pigments.find((p) => p.id === id)?.name ?? id;
  const free = (box?.pigments ?? []).filter(
    (p) => (p.white || view.piece.chosen.pigments.includes(p.id)) && !swatch.parts.some((q) => q.pigment === p.id),
  );
  const set = (parts: Schemas["WetPart"][]) => onChange({ ...swatch, parts });
  return (
    <div className={styles.parts}>
      {swatch.parts.map((p, i) => (
        <NumberInput
          key={p.pigment}
          label={`Parts of ${name(p.pigment)}`}
          min={0}
          step={1}
          decimalScale={2}
          value={p.parts}
          onChange={(v) =>
            set(swatch.parts.flatMap((q, n) => (n === i ? (Number(v) > 0 ? [{ ...q, parts: Number(v) }] : []) : [q])))
          }
        />
      ))}
      {free.length > 0 && (
        <NativeSelect
          aria-label="One more pigment"
          value=""
          data={[{ value: "", label: "one more" }, ...free.map((p) => ({ value: p.id, label: p.name }))]}
          onChange={(e) =>
            e.currentTarget.value && set([...swatch.parts, { pigment: e.currentTarget.value, parts: 1 }])
          }
        />
      )}
    </div>
  );
}
