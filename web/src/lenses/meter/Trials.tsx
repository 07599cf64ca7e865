import { NativeSelect, NumberInput, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Mix, type Schemas } from "../../api/client";
import { useReadings } from "../../api/useBox";
import { useBench } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Note, Section } from "../../kit/Section";
import { recipeLine } from "../recipe/words";
import { Stroke } from "../stroke/Stroke";
import { useGround } from "../stroke/useGround";
import { Meter } from "./Meter";
import styles from "./Trials.module.css";

type For = { zone: number } | { cell: number };

/** What was tried for a zone or a cell of the chart, which way it went, and what to add to what lies there. */
export function Trials({ of, mix }: { of: For; mix: Mix | null }) {
  const { view, box, look } = useBench();
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
  const { trials, correction, wanted, suggested } = found.data;
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
                {t.sentence} <span className="figures">{t.difference.toFixed(1)}</span>
                {t.went && `, ${t.went}`}
              </span>
            </li>
          ))}
        </ol>
      )}
      {correction && (
        <div className={styles.next}>
          <p>
            <b>{correction.words}</b>
          </p>
          {correction.anew && <p>Anew: {correction.anew}.</p>}
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
        <NewTrial
          of={of}
          mix={mix ?? suggested ?? null}
          correction={correction ?? null}
          onDone={() => setOpen(false)}
        />
      ) : (
        <Act onDo={() => setOpen(true)}>{trials.length ? "Another trial" : "Try it, and read what comes of it"}</Act>
      )}
    </Section>
  );
}

/** What was really mixed, and what it reads. */
function NewTrial({
  of,
  mix,
  correction,
  onDone,
}: {
  of: For;
  mix: Mix | null;
  correction: Schemas["Correction"] | null;
  onDone: () => void;
}) {
  const { view, box } = useBench();
  const { data, take } = useReadings(box?.id);
  const { medium, ground } = view.piece.brief;
  const tried = (data?.readings ?? []).find(
    (r) =>
      r.reading.tried_for?.piece === view.id &&
      ("zone" in of ? r.reading.tried_for.zone === of.zone : r.reading.tried_for.cell === of.cell),
  )?.reading.swatch;
  const [swatch, setSwatch] = useState<Schemas["Swatch"]>(() => startOf(ground, mix, tried ?? null, correction));
  const [state, setState] = useState<Schemas["Dampness"]>("dry");
  const [typed, setTyped] = useState("");
  if (!box) return null;
  const name = (id: string) => box.pigments.find((p) => p.id === id)?.name ?? id;
  const keep = (from: Schemas["From"]) =>
    take({
      swatch,
      from,
      state,
      tried_for: { piece: view.id, zone: "zone" in of ? of.zone : null, cell: "cell" in of ? of.cell : null },
    }).then((done) => done && onDone());
  return (
    <>
      {medium === "oil" ? (
        <Parts swatch={swatch} onChange={setSwatch} />
      ) : (
        <p>
          {recipeLine({ parts: [], heaps: [], layers: swatch.layers, slip: 0, lab: { l: 0, a: 0, b: 0 } } as Mix, name)}
        </p>
      )}
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
      <Note>Trials teach the pigments too: the next recipes know better.</Note>
    </>
  );
}

/** What the next trial starts from: what lies there with what was advised, or the recipe. */
function startOf(
  ground: string,
  mix: Mix | null,
  last: Schemas["Swatch"] | null,
  correction: Schemas["Correction"] | null,
): Schemas["Swatch"] {
  if (last && correction && !correction.anew) {
    const parts = last.parts.map((p) => ({ ...p }));
    for (const more of correction.add) {
      const there = parts.find((p) => p.pigment === more.pigment);
      if (there) there.parts += more.parts;
      else parts.push({ ...more });
    }
    return { ...last, parts, layers: [...last.layers, ...correction.over] };
  }
  if (!mix) return { ground, parts: [], layers: [] };
  return {
    ground,
    parts: mix.layers?.length ? [] : amountsOf(mix),
    layers: mix.layers ?? [],
  };
}

/** Parts of a wet mix; of one made in heaps what they come to, the least as one. */
function amountsOf(mix: Mix): Schemas["WetPart"][] {
  let heap = new Map<string, number>();
  for (const h of mix.heaps ?? []) {
    const whole = [...heap.values()].reduce((a, b) => a + b, 0);
    const next = new Map([...heap].map(([id, n]) => [id, whole > 0 ? (n * h.of_last) / whole : 0]));
    for (const p of h.with) next.set(p.pigment, (next.get(p.pigment) ?? 0) + p.parts);
    heap = next;
  }
  if (!heap.size) heap = new Map(mix.parts.map((p) => [p.pigment, p.touch ? 0.04 : p.parts]));
  const least = Math.min(...[...heap.values()].filter((n) => n > 0));
  return [...heap]
    .filter(([, n]) => n > 0)
    .map(([pigment, n]) => ({ pigment, parts: Math.round((n / least) * 100) / 100 }));
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
