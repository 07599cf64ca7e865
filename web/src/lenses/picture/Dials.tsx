import { useDebouncedCallback } from "@mantine/hooks";
import { useEffect, useState } from "react";
import { useBench } from "../../bench/context";
import { figure } from "../../room/figures";
import styles from "./Dials.module.css";

/** Steps of the brush dial from the smallest to the largest. */
const STEPS = 24;
/** Milliseconds after the last turn until the places are laid anew. */
const PAUSE = 140;

/** How many colours, and how large a brush: the two dials of a plan. */
export function Dials() {
  const { view, changes } = useBench();
  const { dials } = view.derived;
  if (!dials) return null;
  const turn = (count: number) => changes.colours(count);
  return (
    <div className={styles.dials} role="group" aria-label="Colours and brush">
      <span className={styles.colours} role="group" aria-label="colours">
        <button
          type="button"
          className="plain"
          aria-label="Fewer colours"
          disabled={dials.colours <= dials.fewest}
          onClick={() => turn(dials.colours - 1)}
        >
          −
        </button>
        <output className="figures">{dials.colours}</output>
        <button
          type="button"
          className="plain"
          aria-label="More colours"
          disabled={dials.colours >= dials.most}
          onClick={() => turn(dials.colours + 1)}
        >
          +
        </button>
        colours
      </span>
      <Brush />
      <span className={styles.said}>
        {dials.places} places
        {dials.too_small.length > 0 &&
          `; ${dials.too_small.length === 1 ? "one colour has" : `${dials.too_small.length} colours have`} none so large`}
      </span>
    </div>
  );
}

function Brush() {
  const { view, changes } = useBench();
  const dials = view.derived.dials;
  const [smallest, largest, brush] = [dials?.smallest ?? 1, dials?.largest ?? 2, dials?.brush ?? 1];
  const stepOf = (mm: number) => Math.round((Math.log(mm / smallest) / Math.log(largest / smallest)) * STEPS);
  const brushOf = (step: number) => smallest * (largest / smallest) ** (step / STEPS);
  const [step, setStep] = useState(stepOf(brush));
  // biome-ignore lint/correctness/useExhaustiveDependencies: the dial follows the plan when the plan changes
  useEffect(() => setStep(stepOf(brush)), [brush, smallest, largest]);
  const turn = useDebouncedCallback((to: number) => {
    if (to !== stepOf(brush)) changes.brush(brushOf(to));
  }, PAUSE);
  const shown = step === stepOf(brush) ? brush : brushOf(step);
  return (
    <span className={styles.brush}>
      <label>
        brush
        <input
          type="range"
          min={0}
          max={STEPS}
          value={step}
          aria-valuetext={`${figure(shown, 1)} millimetres on the piece`}
          onChange={(e) => {
            setStep(Number(e.currentTarget.value));
            turn(Number(e.currentTarget.value));
          }}
        />
      </label>
      <output className="figures">{shown < 10 ? figure(shown, 1) : figure(shown, 0)} mm</output>
      <span className={styles.dot} title="The smallest mark, at its true size">
        <i style={{ width: `${shown}mm`, height: `${shown}mm` }} />
      </span>
    </span>
  );
}
