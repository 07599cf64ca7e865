import { NativeSelect, NumberInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type BoxView, Refused, type Schemas } from "../../api/client";
import { capital, useSelection } from "../../bench/context";
import { Card, Note, Warning } from "../../kit/Section";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { figure, said } from "../../room/figures";
import styles from "./BoxStation.module.css";

/** Trios that blend and trios that span. */
export function StringsRoom({ box }: { box: BoxView }) {
  const found = useQuery({
    queryKey: ["strings", box.id, box.pigments.map((p) => p.mark.lab)],
    queryFn: () => answer(api.GET("/api/boxes/{id}/strings", { params: { path: { id: box.id } } })),
  });
  if (!found.data) return null;
  return (
    <div className={styles.strings}>
      <Trios title="Strings that blend" trios={found.data.blending} box={box}>
        A light, a middle and a dark of one colour.
      </Trios>
      <Trios title="Trios that span" trios={found.data.spanning} box={box}>
        Far apart on the wheel, each of its own value: for contrast.
      </Trios>
    </div>
  );
}

function Trios({
  title,
  trios,
  box,
  children,
}: {
  title: string;
  trios: Schemas["Trio"][];
  box: BoxView;
  children: React.ReactNode;
}) {
  const ground = useGround();
  const name = (id: string) => box.pigments.find((p) => p.id === id)?.name ?? id;
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <Note>{children}</Note>
      {trios.length === 0 && <p>This Box holds none.</p>}
      <ul>
        {trios.map((t) => (
          <li key={t.pigments.join()} className={styles.trio}>
            <Stroke marks={t.marks} ground={ground} height={44} label={t.words} />
            <b>{t.pigments.map(name).join(", ")}</b>
            <span className={styles.small}>{said(capital(t.words))}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Which grey, laid over a colour, drops its value with most colour left. */
export function StringsCard({ box }: { box: BoxView }) {
  const { pigment, selectPigment } = useSelection();
  const ground = useGround();
  const [drop, setDrop] = useState(1);
  const of = box.pigments.some((p) => p.id === pigment) ? (pigment ?? "") : (box.pigments[0]?.id ?? "");
  const greys = useQuery({
    queryKey: ["greys", box.id, of, drop, box.pigments.length],
    queryFn: () =>
      answer(api.GET("/api/boxes/{id}/greys", { params: { path: { id: box.id }, query: { pigment: of, drop } } })),
    enabled: !!of,
    retry: false,
  });
  const name = (id: string) => box.pigments.find((p) => p.id === id)?.name ?? id;
  return (
    <Card>
      <h2>A grey over a colour</h2>
      <NativeSelect
        label="Over which"
        value={of}
        data={box.pigments.map((p) => ({ value: p.id, label: p.name }))}
        onChange={(e) => selectPigment(e.currentTarget.value)}
      />
      <NumberInput
        label="Steps darker"
        min={0.25}
        max={5}
        step={0.25}
        value={drop}
        onChange={(v) => setDrop(Math.min(5, Math.max(0.25, Number(v) || 1)))}
      />
      {greys.error instanceof Refused && <Warning>{greys.error.problem.detail}</Warning>}
      {greys.data?.length === 0 && <p>No grey of this Box drops it by that much.</p>}
      <ul className={styles.greys}>
        {(greys.data ?? []).map((g) => (
          <li key={g.grey}>
            <Stroke marks={[g.before, g.after]} ground={ground} height={40} label="Alone, and with the grey over it" />
            <b>{capital(name(g.grey))}</b>
            <span className={styles.small}>
              {g.laid}. {figure(g.drop, 1)} steps darker, {Math.round(g.left * 100)} % of the colour left.
              {g.lifted && ` ${capital(name(g.lifted.by))} lifts it to ${figure(g.lifted.becomes.value, 1)} again.`}
            </span>
          </li>
        ))}
      </ul>
    </Card>
  );
}
