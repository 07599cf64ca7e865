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
  threads,
  opposites,
  onPoint,
}: {
  pigments: PigmentView[];
  zones: { zone: number; mark: Mark }[];
  chosen: number[];
  ground: string;
  scheme: Schemas["Scheme"] | null;
  /** Pigments that really grey each other, drawn from one to the other. */
  threads: Schemas["Thread"][];
  /** What lies opposite, all round. */
  opposites: Schemas["Opposite"][];
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
      {threads.map((t) => {
        const ends = [t.one, t.other].map((id) => pigments.find((p) => p.id === id));
        if (!ends[0] || !ends[1]) return null;
        const [a, b] = [place(ends[0].mark, rim), place(ends[1].mark, rim)];
        return (
          <line key={`${t.one} ${t.other}`} x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} className={styles.thread}>
            <title>
              {ends[0].name} and {ends[1].name}: {t.recipe}
            </title>
          </line>
        );
      })}
      {zones
        .filter((z) => chosen[0] === z.zone && chromaOf(z.mark) > 4)
        .map((z) => (
          <path key={z.zone} d={across(oppositeOf(opposites, hueOf(z.mark)))} className={styles.across}>
            <title>Its opposite on this wheel</title>
          </path>
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

/** The opposite of a hue, read between those that are told. */
function oppositeOf(opposites: Schemas["Opposite"][], hue: number): number | null {
  if (!opposites.length) return null;
  const at = [...opposites].reverse().findIndex((o) => o.hue <= hue);
  const low = opposites[opposites.length - 1 - Math.max(0, at)];
  const high = opposites[(opposites.indexOf(low) + 1) % opposites.length];
  const ahead = (from: number, to: number) => (to - from + 360) % 360;
  const step = ahead(low.opposite, high.opposite);
  // Where the wheel jumps from pigment to pigment there is nothing between.
  if (step > 90) return low.opposite;
  return (low.opposite + (step * ahead(low.hue, hue)) / Math.max(1, ahead(low.hue, high.hue))) % 360;
}

/** A short stroke on the rim at a hue. */
function across(hue: number | null): string {
  if (hue === null) return "";
  const turn = (hue * Math.PI) / 180;
  const at = (r: number) => `${MIDDLE + Math.cos(turn) * r} ${MIDDLE - Math.sin(turn) * r}`;
  return `M${at(REACH + 5)}L${at(REACH - 16)}`;
}

/** A soft wedge of thirty degrees. */
function wedge(hue: number): string {
  const at = (h: number) => {
    const turn = (h * Math.PI) / 180;
    return `${MIDDLE + Math.cos(turn) * REACH} ${MIDDLE - Math.sin(turn) * REACH}`;
  };
  return `M${MIDDLE} ${MIDDLE}L${at(hue - 15)}A${REACH} ${REACH} 0 0 0 ${at(hue + 15)}Z`;
}
