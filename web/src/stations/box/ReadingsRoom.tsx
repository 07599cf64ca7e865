import type { BoxView, Schemas } from "../../api/client";
import { useReadings } from "../../api/useBox";
import { useSelection } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Acts, Note, Warning } from "../../kit/Section";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { figure, said } from "../../room/figures";
import styles from "./BoxStation.module.css";

/** What was read, each beside what the Box expects; before and after of what was learned. */
export function ReadingsRoom({ box }: { box: BoxView }) {
  const { data, keep, remove } = useReadings(box.id);
  if (!data) return null;
  if (!data.readings.length) {
    return (
      <p className={styles.empty}>
        Nothing was read yet. Every colour of this Box is modelled; your tubes, sticks and pens differ by a quarter or
        so. Lay a pigment alone and a tint of it, and read both: the tool learns its strength and colour, and all mixes
        follow.
      </p>
    );
  }
  return (
    <div className={styles.readings}>
      <section aria-label="Readings">
        <h2>Readings</h2>
        <ul>
          {data.readings.map((r) => (
            <ReadingRow key={r.id} r={r} onKeep={keep} onRemove={remove} />
          ))}
        </ul>
      </section>
      <section aria-label="Before and after">
        <h2>Learned</h2>
        <Note>
          Left as modelled, right as learned{data.changed.some((c) => c.tint_before) && ": alone, and in a tint"}.
        </Note>
        <ul>
          {data.changed.map((c) => (
            <Changed key={c.pigment} c={c} box={box} />
          ))}
        </ul>
      </section>
    </div>
  );
}

function ReadingRow({
  r,
  onKeep,
  onRemove,
}: {
  r: Schemas["ReadingLine"];
  onKeep: (reading: Schemas["ReadingLine"], body: Schemas["ReadingChange"]) => void;
  onRemove: (id: number) => void;
}) {
  const ground = useGround();
  const { reading } = r;
  return (
    <li className={styles.reading} data-out={reading.left_out || !!r.stray}>
      <Stroke
        marks={r.predicted ? [r.read, r.predicted] : [r.read]}
        ground={ground}
        height={34}
        label="As read, and as the Box expects it"
      />
      <div>
        <b>{r.mixed}</b>
        <span className={styles.small}>
          {r.how}, {reading.state}
          {reading.sealed && ", varnished"}
          {reading.tried_for && ", a trial"} · {new Date(reading.at).toLocaleDateString()}
        </span>
        {r.sentence && <span>{said(r.sentence)}</span>}
        {r.stray && <Warning>{r.stray}</Warning>}
        <Acts>
          <Act onDo={() => onKeep(r, { left_out: !reading.left_out, note: reading.note })}>
            {reading.left_out ? "Take it in again" : "Leave it out"}
          </Act>
          <Act onDo={() => onRemove(r.id)}>Remove</Act>
        </Acts>
      </div>
    </li>
  );
}

function Changed({ c, box }: { c: Schemas["BeforeAfter"]; box: BoxView }) {
  const ground = useGround();
  const { selectPigment } = useSelection();
  const p = box.pigments.find((q) => q.id === c.pigment);
  return (
    <li>
      <button type="button" className={`plain ${styles.changed}`} onClick={() => selectPigment(c.pigment)}>
        <Stroke marks={[c.before, c.after]} ground={ground} height={30} label="As modelled, as learned" />
        {c.tint_before && c.tint_after && (
          <Stroke
            marks={[c.tint_before, c.tint_after]}
            ground={ground}
            height={30}
            label="The tint, before and after"
          />
        )}
        <span>
          <b>{p?.name ?? c.pigment}</b>
          <span className={styles.small}>
            {p?.provenance}
            {p?.doubt != null && `, give or take ${figure(p.doubt, 1)}`}
          </span>
        </span>
      </button>
    </li>
  );
}
