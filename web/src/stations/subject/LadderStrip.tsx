import type { Schemas } from "../../api/client";
import { figure } from "../../room/figures";
import styles from "./LadderStrip.module.css";

/** The value axis alone: how much of the picture lies on each tenth of a step, light at the top. */
export function LadderStrip({ ladder }: { ladder: Schemas["Ladder"] }) {
  const [width, height] = [234, 210];
  const most = Math.max(...ladder.histogram);
  const y = (v: number) => 6 + (1 - v / 10) * (height - 12);
  const rung = (height - 12) / 100;
  return (
    <figure className={styles.strip}>
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`Values: darkest ${figure(ladder.darkest, 1)}, middle ${figure(ladder.median, 1)}, lightest ${figure(ladder.lightest, 1)}`}
      >
        {ladder.groups.map((g) => (
          <line key={g.from} x1={22} x2={width} y1={y(g.from)} y2={y(g.from)} className={styles.edge} />
        ))}
        {ladder.histogram.map((n, i) => (
          <rect
            key={i}
            x={24}
            y={y((i + 1) / 10)}
            height={rung}
            width={Math.sqrt(n / most) * (width - 78)}
            className={styles.bar}
          />
        ))}
        {[0, 2, 4, 6, 8, 10].map((v) => (
          <text key={v} x={16} y={y(v) + 4} textAnchor="end" className="figures" fill="currentColor">
            {v}
          </text>
        ))}
        {ladder.groups.map((g) => (
          <text
            key={g.from}
            x={width}
            y={y((g.from + g.to) / 2) + 4}
            textAnchor="end"
            className="figures"
            fill="currentColor"
          >
            {Math.round(g.share * 100)} %
          </text>
        ))}
      </svg>
      <figcaption className="figures">
        darkest {figure(ladder.darkest, 1)} · middle {figure(ladder.median, 1)} · lightest {figure(ladder.lightest, 1)}
      </figcaption>
    </figure>
  );
}
