import { type ReactNode, useId } from "react";
import type { Mark, PieceView } from "../../api/client";
import { type Look, seen } from "../../bench/context";
import styles from "./Planned.module.css";

/** Colours a zone runs through: each mark pure at its share of the way. */
export type Way = { direction: number; stops: { at: number; mark: Mark }[] };

type Props = {
  view: PieceView;
  /** Colour of each zone, by number. */
  marks: Map<number, Mark>;
  /** Zones that run from colour to colour. */
  ways?: Map<number, Way>;
  ground: string;
  look: Look;
  label: string;
  chosen?: number | null;
  onZone?: (zone: number) => void;
  /** Shapes without paint are drawn as lines on the ground. */
  outlined?: boolean;
  children?: ReactNode;
};

/** The piece drawn as its zones in paint on the ground. */
export function Planned({ view, marks, ways, ground, look, label, chosen, onZone, outlined, children }: Props) {
  const { grid_width: w, grid_height: h, shapes } = view.outlook;
  const id = useId();
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
        const way = ways?.get(s.zone);
        const run = `${id}-way-${s.zone}`;
        const fill = way ? `url(#${run})` : mark ? seen(mark, look) : "transparent";
        // The paint's own hairline closes the seam that smoothing edges leaves between neighbours.
        return (
          <g key={s.zone}>
            {way && <Run id={run} way={way} look={look} />}
            <path
              d={s.path}
              fillRule="evenodd"
              fill={fill}
              stroke={outlined && !mark ? "#101010" : fill}
              strokeOpacity={outlined && !mark ? 0.5 : 1}
              strokeWidth={0.5}
              onClick={() => onZone?.(s.zone)}
            />
          </g>
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

function Run({ id, way, look }: { id: string; way: Way; look: Look }) {
  const turn = (way.direction * Math.PI) / 180;
  const [x, y] = [Math.cos(turn) / 2, Math.sin(turn) / 2];
  return (
    <linearGradient id={id} x1={0.5 - x} y1={0.5 - y} x2={0.5 + x} y2={0.5 + y}>
      {way.stops.map((s) => (
        <stop key={s.at} offset={s.at} stopColor={seen(s.mark, look)} />
      ))}
    </linearGradient>
  );
}
