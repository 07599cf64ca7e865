import { NativeSelect, TextInput } from "@mantine/core";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { BoxView, PigmentView } from "../../api/client";
import { signed, useSelection } from "../../bench/context";
import { unit } from "../../bench/stations";
import { chromaOf, hueOf } from "../../lenses/round/Round";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { figure } from "../../room/figures";
import styles from "./BoxStation.module.css";

/** What the Box can be sorted by: a number, and what is written beside each pigment. */
const SORTS: Record<string, { label: string; by: (p: PigmentView) => number; says: (p: PigmentView) => string }> = {
  value: { label: "value", by: (p) => -p.mark.value, says: (p) => figure(p.mark.value, 1) },
  temperature: {
    label: "temperature",
    by: (p) => -p.mark.temperature,
    says: (p) => signed(p.mark.temperature, 0),
  },
  hue: {
    label: "hue",
    by: (p) => (chromaOf(p.mark) < 6 ? 400 - p.mark.value : hueOf(p.mark)),
    says: (p) => (chromaOf(p.mark) < 6 ? "grey" : `${figure(hueOf(p.mark), 0)}°`),
  },
  strength: { label: "strength", by: (p) => -p.strength, says: (p) => `${Math.round(p.strength * 100)} %` },
  use: { label: "use", by: (p) => -p.used_in, says: (p) => (p.used_in ? `${p.used_in} ×` : "never") },
};

/** All pigments as strokes on the ground of the piece, sorted and found by typing. */
export function OwnedRoom({ box }: { box: BoxView }) {
  const { pigment, selectPigment } = useSelection();
  const ground = useGround();
  const [find, setFind] = useState("");
  const [search, setSearch] = useSearchParams();
  const sort = SORTS[search.get("sort") ?? "value"] ?? SORTS.value;
  const wanted = find.trim().toLowerCase();
  const says = (p: PigmentView) => [p.name, p.owned.label, ...p.colour_index, p.known].join(" ").toLowerCase();
  const shown = box.pigments.filter((p) => !wanted || says(p).includes(wanted)).sort((a, b) => sort.by(a) - sort.by(b));
  return (
    <>
      <div className={styles.head}>
        <h2>
          {box.name}, {box.pigments.length} {unit(box.medium, box.pigments.length)}
        </h2>
        <span className={styles.tools}>
          <NativeSelect
            aria-label="Sorted by"
            size="xs"
            value={search.get("sort") ?? "value"}
            data={Object.entries(SORTS).map(([value, s]) => ({ value, label: `by ${s.label}` }))}
            onChange={(e) => {
              const to = e.currentTarget.value;
              setSearch(
                (old) => {
                  const next = new URLSearchParams(old);
                  next.set("sort", to);
                  return next;
                },
                { replace: true },
              );
            }}
          />
          <TextInput
            id="find"
            aria-label="Find in the Box"
            placeholder="find ( / )"
            value={find}
            onChange={(e) => setFind(e.currentTarget.value)}
            size="xs"
          />
        </span>
      </div>
      <ul className={styles.owned}>
        {shown.map((p) => (
          <li key={p.id}>
            <button
              type="button"
              className={`plain ${styles.one}`}
              aria-pressed={pigment === p.id}
              data-away={p.owned.used_up || !!p.owned.lent_to}
              onClick={() => selectPigment(pigment === p.id ? null : p.id)}
            >
              <Stroke marks={[p.mark]} ground={ground} height={30} />
              <span>
                <b>{p.name}</b>
                <span className="figures">{sort.says(p)}</span>
              </span>
              {p.known && <small>{p.known}</small>}
            </button>
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p>Nothing in this Box is called that.</p>}
    </>
  );
}
