import { TextInput } from "@mantine/core";
import { useState } from "react";
import { hex } from "../../api/client";
import { useBench } from "../../bench/context";
import { useGround } from "../../lenses/stroke/useGround";
import styles from "./BoxShelf.module.css";

/** Everything in the Box as strokes on the ground, lightest first. Choose one to lock it, leave it out, or put it in the set. */
export function BoxShelf() {
  const { box, view, pigment, selectPigment } = useBench();
  const ground = useGround();
  const [find, setFind] = useState("");
  if (!box) return null;
  const wanted = find.trim().toLowerCase();
  const fits = (name: string, ci: string[]) =>
    !wanted || name.toLowerCase().includes(wanted) || ci.some((c) => c.toLowerCase().includes(wanted));
  const { locked, excluded, chosen } = view.piece;
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
      <ul className={styles.strokes} style={{ background: ground }}>
        {box.pigments.map((p) => {
          const state = locked.includes(p.id)
            ? "locked"
            : excluded.includes(p.id)
              ? "left out"
              : chosen.pigments.includes(p.id)
                ? "in the set"
                : "";
          return (
            <li key={p.id} hidden={!fits(p.name, p.colour_index)}>
              <button
                type="button"
                className={styles.stick}
                style={{ background: hex(p.mark.screen) }}
                data-state={state}
                aria-pressed={pigment === p.id}
                aria-label={`${p.name}, value ${p.mark.value.toFixed(1)}${state ? `, ${state}` : ""}`}
                title={`${p.name}${state ? ` · ${state}` : ""}`}
                draggable={!p.white}
                onDragStart={(e) => e.dataTransfer.setData("text/pigment", p.id)}
                onClick={() => selectPigment(pigment === p.id ? null : p.id)}
              />
            </li>
          );
        })}
      </ul>
    </section>
  );
}
