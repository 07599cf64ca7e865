import { NativeSelect } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { KEYS } from "../../api/words";
import { useBench } from "../../bench/context";
import styles from "./Light.module.css";

/** Milliseconds after the last turn of the dial until the picture follows. */
const PAUSE = 200;
/** Where the dial stands to begin with, between keeping the lights (0) and keeping the differences (1). */
const USUAL = 0.4;
/** Steps of the dial. */
const STEPS = 10;

/** Fits the values of the reference into what the paints reach: shown beside the plan as it is before it is taken. */
export function FitValues() {
  const { view, changes } = useBench();
  const [search, setSearch] = useSearchParams();
  const [key, setKey] = useState<Schemas["Key"]>(view.derived.light.key);
  const [differences, setDifferences] = useState(USUAL);
  const [shown] = useDebouncedValue(differences, PAUSE);
  const open = search.get("fit") !== null;
  const turn = (on: boolean) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (on) next.set("fit", "1");
        else next.delete("fit");
        return next;
      },
      { replace: true },
    );
  const reach = view.derived.light.reach;
  if (!open) {
    return (
      <button type="button" className="act main" disabled={!reach} onClick={() => turn(true)}>
        Fit values…
      </button>
    );
  }
  const plan = `/api/pieces/${view.id}/planned/view?of=${view.revision}`;
  const use = () => {
    changes.request({ do: "map-values", key, differences });
    turn(false);
  };
  return (
    <div className={styles.fit}>
      <NativeSelect
        aria-label="Key"
        value={key}
        data={KEYS.map((k) => ({ value: k.value, label: `${k.label} key` }))}
        onChange={(e) => setKey(e.currentTarget.value as Schemas["Key"])}
      />
      {key === "as-read" && (
        <label className={styles.dial}>
          <span>keep the lights</span>
          <input
            type="range"
            min={0}
            max={STEPS}
            value={Math.round(differences * STEPS)}
            aria-label="From keeping the lights to keeping the differences"
            onChange={(e) => setDifferences(Number(e.currentTarget.value) / STEPS)}
          />
          <span>keep the differences</span>
        </label>
      )}
      <div className={styles.pair}>
        <figure>
          <img src={plan} alt="The plan now" />
          <figcaption>now</figcaption>
        </figure>
        <figure>
          <img src={`${plan}&fitted=${key}&differences=${shown}`} alt="The plan with its values fitted" />
          <figcaption>fitted</figcaption>
        </figure>
      </div>
      <div className={styles.choice}>
        <button type="button" className="act main" disabled={!reach} onClick={use}>
          Use these values
        </button>
        <button type="button" className="act" onClick={() => turn(false)}>
          Leave them
        </button>
      </div>
    </div>
  );
}
