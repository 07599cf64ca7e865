import type { Spot } from "../../bench/context";
import styles from "./Subject.module.css";

/** The measuring line, or two rings joined by a hairline. */
export function Ends({ ends }: { ends: { what: "line" | "compare"; from: Spot; to: Spot } }) {
  const { from, to, what } = ends;
  const at = (p: Spot) => ({ x: `${p.x * 100}%`, y: `${p.y * 100}%` });
  const [a, b] = [at(from), at(to)];
  return (
    <svg className={styles.ends} aria-hidden="true">
      <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} />
      <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} />
      {what === "compare" &&
        [a, b].map((p, i) => (
          <g key={i}>
            <circle cx={p.x} cy={p.y} r={9} />
            <circle cx={p.x} cy={p.y} r={9} />
          </g>
        ))}
    </svg>
  );
}
