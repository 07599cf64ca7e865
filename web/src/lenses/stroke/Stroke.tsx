import type { Mark } from "../../api/client";
import { type Look, seen } from "../../bench/context";
import styles from "./Stroke.module.css";

/** A painted bar lying on its ground. Two marks lie in one stroke, split and touching. */
export function Stroke({
  marks,
  ground,
  height,
  look = "as-it-is",
  label,
}: {
  marks: Mark[];
  ground: string;
  height: number;
  look?: Look;
  label?: string;
}) {
  const clipped = marks.some((m) => !m.screen.in_gamut);
  return (
    <span
      className={styles.ground}
      style={{ background: ground, height, padding: `${Math.round(height * 0.21)}px ${Math.round(height * 0.24)}px` }}
      {...(label ? { role: "img", "aria-label": label } : { "aria-hidden": true })}
      title={clipped ? "The true colour lies outside what this screen shows" : undefined}
    >
      {marks.map((m, i) => (
        // The order is the meaning: wanted first, given second.
        <span key={i} className={styles.paint} style={{ background: seen(m, look) }} />
      ))}
    </span>
  );
}
