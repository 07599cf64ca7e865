import type { SetFound } from "../../api/client";
import { useBench } from "../../bench/context";
import { figure } from "../../room/figures";
import styles from "./LeanSet.module.css";

/** How many are listed before the rest is only counted. */
const SHOWN = 4;

/** Sets as good as this one, as exchanges: the painter picks among equals. */
export function Alike({ size }: { size: SetFound }) {
  const { box, changes } = useBench();
  const name = (id: string) => box?.pigments.find((p) => p.id === id)?.name ?? id;
  const ties = size.near_ties.length
    ? size.near_ties.map((t) => t.pigments)
    : size.runner_up.length
      ? [size.runner_up]
      : [];
  if (!ties.length) return null;
  const count = size.near_tie_count;
  return (
    <section className={styles.alike} aria-label="Nearly as good">
      <h3>
        {count
          ? `${size.more_near_ties ? "At least " : ""}${count} ${count === 1 ? "set" : "sets"} within 2 %`
          : `Next best, at ${figure(size.runner_up_cost ?? 0, 2)}`}
      </h3>
      <ul>
        {ties.slice(0, SHOWN).map((set) => {
          const enters = set.filter((p) => !size.pigments.includes(p)).map(name);
          const leaves = size.pigments.filter((p) => !set.includes(p)).map(name);
          return (
            <li key={set.join()}>
              <span>
                {enters.join(", ")} <i>for</i> {leaves.join(", ")}
              </span>
              <button
                type="button"
                className="act"
                aria-label={`Take ${enters.join(", ")} for ${leaves.join(", ")}`}
                onClick={() => changes.request({ do: "choose-set", pigments: set })}
              >
                Take
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
