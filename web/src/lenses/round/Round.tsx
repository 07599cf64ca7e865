import { useRef } from "react";
import type { Mark, PigmentView, Schemas } from "../../api/client";
import { seen } from "../../bench/context";
import styles from "./Round.module.css";

const SIZE = 250;
const MIDDLE = SIZE / 2;
const REACH = MIDDLE - 8;

export const hueOf = (m: Mark) => ((Math.atan2(m.lab.b, m.lab.a) * 180) / Math.PI + 360) % 360;
export const chromaOf = (m: Mark) => Math.hypot(m.lab.a, m.lab.b);

/** Where a colour lies on the clock: hue round, chroma outwards. */
function place(m: Mark, rim: number): [number, number] {
  const share = Math.min(1, chromaOf(m) / rim);
  const turn = (hueOf(m) * Math.PI) / 180;
  return [MIDDLE + Math.cos(turn) * share * REACH, MIDDLE - Math.sin(turn) * share * REACH];
}

/** The hue circle as a clock of strokes from the Box at their real chroma, with the zones on it. Pointing at it says a hue and a chroma. */
export function Round({
  pigments,
  zones,
  chosen,
  ground,
  scheme,
  onPoint,
}: {
  pigments: PigmentView[];
  zones: { zone: number; mark: Mark }[];
  chosen: number[];
  ground: string;
  scheme: Schemas["Scheme"] | null;
  onPoint: (hue: number, chroma: number) => void;
}) {
  const frame = useRef<SVGSVGElement>(null);
  // The strongest colour of all lies near the rim.
  const rim = Math.max(40, ...pigments.map((p) => chromaOf(p.mark)), ...zones.map((z) => chromaOf(z.mark))) * 1.12;
  const point = (e: React.PointerEvent) => {
    const r = frame.current?.getBoundingClientRect();
    if (!r) return;
    const [x, y] = [((e.clientX - r.left) / r.width) * SIZE - MIDDLE, MIDDLE - ((e.clientY - r.top) / r.height) * SIZE];
    const hue = ((Math.atan2(y, x) * 180) / Math.PI + 360) % 360;
    onPoint(hue, Math.min(rim, (Math.hypot(x, y) / REACH) * rim));
  };
  return (
    <svg
      ref={frame}
      className={styles.round}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      role="img"
      aria-label="Hues of the Box and of the zones, chroma outwards"
      onPointerUp={point}
    >
      <circle cx={MIDDLE} cy={MIDDLE} r={REACH + 6} fill={ground} />
      {[20, 40, 60, 80]
        .filter((c) => c < rim)
        .map((c) => (
          <circle key={c} cx={MIDDLE} cy={MIDDLE} r={(c / rim) * REACH} className={styles.ring} />
        ))}
      {huesOf(scheme).map((h) => (
        <path key={h} d={wedge(h)} className={styles.wedge} />
      ))}
      {pigments.map((p) => {
        const [x, y] = place(p.mark, rim);
        return (
          <rect
            key={p.id}
            x={-9}
            y={-3.5}
            width={18}
            height={7}
            transform={`translate(${x} ${y}) rotate(${-hueOf(p.mark)})`}
            fill={seen(p.mark, "as-it-is")}
          >
            <title>{p.name}</title>
          </rect>
        );
      })}
      {zones.map(({ zone, mark }) => {
        const [x, y] = place(mark, rim);
        const on = chosen.includes(zone);
        return (
          <g key={zone} className={on ? styles.on : styles.zone}>
            <circle cx={x} cy={y} r={on ? 10 : 5} fill={seen(mark, "as-it-is")} />
            {on && (
              <text x={x} y={y - 13} textAnchor="middle">
                {zone}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

function huesOf(scheme: Schemas["Scheme"] | null): number[] {
  switch (scheme?.kind) {
    case "one-hue":
      return [scheme.hue];
    case "opposites":
      return [scheme.dominant, scheme.other];
    case "neighbours":
      return [scheme.from, scheme.to];
    case "chord":
      return scheme.hues.map((h) => h.hue);
    case "slide":
      return [scheme.dark, scheme.light];
    default:
      return [];
  }
}

/** A soft wedge of thirty degrees. */
function wedge(hue: number): string {
  const at = (h: number) => {
    const turn = (h * Math.PI) / 180;
    return `${MIDDLE + Math.cos(turn) * REACH} ${MIDDLE - Math.sin(turn) * REACH}`;
  };
  return `M${MIDDLE} ${MIDDLE}L${at(hue - 15)}A${REACH} ${REACH} 0 0 0 ${at(hue + 15)}Z`;
}
