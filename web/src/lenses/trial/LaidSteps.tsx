import { NativeSelect } from "@mantine/core";
import type { Schemas } from "../../api/client";
import { amounts } from "../../api/words";
import { useBench } from "../../bench/context";
import { Act } from "../../kit/Act";
import styles from "./Trials.module.css";

type Step = Schemas["LaidStep"];
type Medium = Schemas["Medium"];

/** Most layers that can be told, as the server has it. */
const MOST = 5;
const TIMES = ["once", "twice", "three times"];

/** What can be done in a layer beside laying it, by medium. */
const ACTS: Partial<Record<Medium, { value: Schemas["Act"]; label: string }[]>> = {
  "soft-pastel": [
    { value: "lay", label: "crisp" },
    { value: "rub", label: "rubbed" },
  ],
};

/** What was really laid: the layers of the recipe, first laid first, each to be changed, taken out, or followed by another. */
export function LaidSteps({ steps, onChange }: { steps: Step[]; onChange: (steps: Step[]) => void }) {
  const { view, box } = useBench();
  const { medium } = view.piece.brief;
  const pigments = box?.pigments ?? [];
  const set = (n: number, change: Partial<Step>) => onChange(steps.map((s, i) => (i === n ? { ...s, ...change } : s)));
  const first = view.piece.chosen.pigments[0] ?? pigments[0]?.id ?? "";
  const options = pigments.map((p) => ({ value: p.id, label: p.name }));
  return (
    <ol className={styles.steps} aria-label="What was laid">
      {steps.map((step, n) => (
        // Layers have no name but their place.
        <li key={n}>
          {step.of.map((part, place) => (
            <NativeSelect
              key={part.pigment}
              className={styles.pigment}
              aria-label={`Pigment of layer ${n + 1}`}
              value={part.pigment}
              data={options}
              onChange={(e) =>
                set(n, {
                  of: step.of.map((p, i) => (i === place ? { ...p, pigment: e.currentTarget.value } : p)),
                })
              }
            />
          ))}
          {step.of.length === 0 && (
            <span className={styles.pigment}>{step.act === "burnish" ? "burnished" : "lifted"}</span>
          )}
          <Act label={`Take out layer ${n + 1}`} onDo={() => onChange(steps.filter((_, i) => i !== n))}>
            −
          </Act>
          {step.of.length > 0 && <How step={step} n={n} medium={medium} onChange={(change) => set(n, change)} />}
        </li>
      ))}
      {steps.length < MOST && (
        <li className={styles.more}>
          <Act
            onDo={() => onChange([...steps, { of: [{ pigment: first, parts: 1 }], amount: 1, times: 1, act: "lay" }])}
          >
            + one more layer
          </Act>
        </li>
      )}
    </ol>
  );
}

/** How much of a layer, how often, and what is done with it. */
function How(props: { step: Step; n: number; medium: Medium; onChange: (change: Partial<Step>) => void }) {
  const { step, n, medium, onChange } = props;
  const names = amounts(medium);
  const acts = ACTS[medium];
  return (
    <>
      {names.length > 0 && (
        <NativeSelect
          aria-label={`Amount of layer ${n + 1}`}
          value={String(step.amount)}
          data={names.map((label, i) => ({ value: String(i + 1), label }))}
          onChange={(e) => onChange({ amount: Number(e.currentTarget.value) })}
        />
      )}
      <NativeSelect
        aria-label={`Times of layer ${n + 1}`}
        value={String(step.times)}
        data={TIMES.map((label, i) => ({ value: String(i + 1), label }))}
        onChange={(e) => onChange({ times: Number(e.currentTarget.value) })}
      />
      {acts && n > 0 && (
        <NativeSelect
          aria-label={`Manner of layer ${n + 1}`}
          value={step.act}
          data={acts}
          onChange={(e) => onChange({ act: e.currentTarget.value as Schemas["Act"] })}
        />
      )}
    </>
  );
}
