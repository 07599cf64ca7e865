import type { Schemas } from "../../api/client";
import styles from "./Studio.module.css";

/** Progress of filling a demo studio that is already open. */
export function DemoProgress({ filling }: { filling: Schemas["DemoFilling"] }) {
  if (filling.problem) {
    return (
      <p className={styles.damaged} role="alert">
        The demo studio was not filled to its end: {filling.problem} Start it again to fill it anew.
      </p>
    );
  }
  return (
    <p className={styles.filling} role="status">
      <span>
        The first piece is ready. Four more and two years of finished work are being added; you can start now.
      </span>
      <progress max={1} value={filling.share} aria-label="Filling the demo studio" />
    </p>
  );
}
