import styles from "../Brief.module.css";
import type { Place, Wall } from "./useWall";

/** The measured line or corners. */
export function MeasureMarks({
  wall,
  line,
  corners,
  w,
  h,
}: {
  wall: Wall;
  line: [Place, Place] | null;
  corners: Place[];
  w: number;
  h: number;
}) {
  const at = (p: Place) => `${p.x * w},${p.y * h}`;
  const m = wall.measure;
  const ends: Place[] | null = line ?? (m?.by === "line" ? [m.from, m.to] : null);
  const quad = corners.length ? corners : m?.by === "corners" ? m.corners : null;
  return (
    <g className={styles.measure} aria-hidden="true">
      {ends && (
        <>
          <polyline points={beside(ends, w, h)} />
          <polyline points={beside(ends, w, h)} />
        </>
      )}
      {quad && (
        <>
          <polygon points={quad.map(at).join(" ")} />
          <polygon points={quad.map(at).join(" ")} />
        </>
      )}
    </g>
  );
}

/** Half a tick, and how far the line lies beside what was measured, in pixels. */
const TICK = 7;

/** The line drawn beside its ends, so that the rule under it stays in sight, with a tick from each end. */
function beside([from, to]: Place[], w: number, h: number): string {
  const [a, b] = [from, to].map((p) => [p.x * w, p.y * h]);
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const off = [(-(b[1] - a[1]) / length) * TICK, ((b[0] - a[0]) / length) * TICK];
  const point = (p: number[], by: number) => `${p[0] + off[0] * by},${p[1] + off[1] * by}`;
  return [point(a, 0), point(a, 2), point(a, 1), point(b, 1), point(b, 2), point(b, 0)].join(" ");
}
