import type { ReactNode } from "react";
import type { Mark, PieceView } from "../../api/client";
import { type Look, seen } from "../../bench/context";
import styles from "./Planned.module.css";

type Props = {
  view: PieceView;
  /** Colour of each zone, by number. */
  marks: Map<number, Mark>;
  ground: string;
  look: Look;
  label: string;
  chosen?: number | null;
  onZone?: (zone: number) => void;
  children?: ReactNode;
};

/** The piece drawn as its zones in paint on the ground. */
export function Planned({ view, marks, ground, look, label, chosen, onZone, children }: Props) {
  const { grid_width: w, grid_height: h, shapes } = view.outlook;
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      className={styles.planned}
      role="img"
      aria-label={label}
      style={{ background: ground }}
    >
      {shapes.map((s) => {
        const mark = marks.get(s.zone);
        const fill = mark ? seen(mark, look) : "transparent";
        // The paint's own hairline closes the seam that smoothing edges leaves between neighbours.
        return (
          <path
            key={s.zone}
            d={s.path}
            fillRule="evenodd"
            fill={fill}
            stroke={fill}
            strokeWidth={0.5}
            onClick={() => onZone?.(s.zone)}
          />
        );
      })}
      {shapes
        .filter((s) => s.zone === chosen)
        .map((s) => (
          <g key={s.zone} className={styles.chosen}>
            <path d={s.path} />
            <path d={s.path} />
          </g>
        ))}
      {children}
    </svg>
  );
}
