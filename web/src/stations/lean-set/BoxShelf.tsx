import { TextInput } from "@mantine/core";
import { useState } from "react";
import { hex, type PigmentView } from "../../api/client";
import { useBench, useSelection } from "../../bench/context";
import { useGround } from "../../lenses/stroke/useGround";
import { figure } from "../../room/figures";
import styles from "./BoxShelf.module.css";

/** Bands of value the shelf is laid out in, lightest first; the top one takes white in. */
const BANDS: [number, number][] = [
  [8, 11],
  [6, 8],
  [5, 6],
  [4, 5],
  [3, 4],
  [2, 3],
  [0, 2],
];

/** Everything in the Box on the ground, as in the field: lighter higher, warmer further right. Choose one to lock it, leave it out, or put it in the set. */
export function BoxShelf() {
  const { box, view } = useBench();
  const { pigment, selectPigment } = useSelection();
  const ground = useGround();
  const [find, setFind] = useState("");
  if (!box) return null;
  const wanted = find.trim().toLowerCase();
  const fits = (name: string, ci: string[]) =>
    !wanted || name.toLowerCase().includes(wanted) || ci.some((c) => c.toLowerCase().includes(wanted));
  const { locked, excluded, chosen } = view.piece;
  const leftOut = (id: string) => excluded.includes(id) || view.derived.too_little.some((l) => l.pigment === id);
  const stateOf = (id: string) =>
    locked.includes(id) ? "locked" : leftOut(id) ? "left out" : chosen.pigments.includes(id) ? "in the set" : "";
  return (
    <section className={styles.shelf} aria-label={`Box: ${box.name}`}>
      <div className={styles.head}>
        <h2>{box.name}</h2>
        <TextInput
          id="find"
          aria-label="Find in the Box"
          placeholder="find ( / )"
          value={find}
          onChange={(e) => setFind(e.currentTarget.value)}
          size="xs"
        />
      </div>
      {view.derived.too_little.map((l) => (
        <p key={l.pigment} className={styles.leftOut}>
          {l.why}
        </p>
      ))}
      <div className={styles.bands} style={{ background: ground }}>
        {BANDS.map(([from, to]) => {
          const inBand = box.pigments.filter(
            (p) => p.second !== "acrylic" && p.mark.value >= from && p.mark.value < to && fits(p.name, p.colour_index),
          );
          if (!inBand.length) return null;
          inBand.sort((a, b) => a.mark.temperature - b.mark.temperature);
          return (
            <div key={from} className={styles.band}>
              <span className="figures" aria-hidden="true">
                {from}–{Math.min(to, 10)}
              </span>
              <ul>
                {inBand.map((p) => (
                  <li key={p.id}>
                    <Stick
                      p={p}
                      state={stateOf(p.id)}
                      chosen={pigment === p.id}
                      onChoose={() => selectPigment(pigment === p.id ? null : p.id)}
                    />
                  </li>
                ))}
              </ul>
            </div>
          );
        })}
      </div>
    </section>
  );
}

function Stick({
  p,
  state,
  chosen,
  onChoose,
}: {
  p: PigmentView;
  state: string;
  chosen: boolean;
  onChoose: () => void;
}) {
  return (
    <button
      type="button"
      className={styles.stick}
      style={{ background: hex(p.mark.screen) }}
      data-state={state}
      data-pigment={p.id}
      aria-pressed={chosen}
      aria-label={`${p.name}, value ${figure(p.mark.value, 1)}${state ? `, ${state}` : ""}`}
      title={`${p.name}${state ? ` · ${state}` : ""}`}
      draggable={!p.white}
      onDragStart={(e) => e.dataTransfer.setData("text/pigment", p.id)}
      onClick={onChoose}
    />
  );
}
