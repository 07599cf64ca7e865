import { NativeSelect, NumberInput } from "@mantine/core";
import type { Schemas } from "../../api/client";
import { useBench } from "../../bench/context";
import styles from "./Trials.module.css";

/** The parts that were really taken, to be changed. */
export function LaidParts({
  swatch,
  onChange,
}: {
  swatch: Schemas["Swatch"];
  onChange: (s: Schemas["Swatch"]) => void;
}) {
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
