import styles from "./Cautions.module.css";

/** Cautions, each on one line, the reason on request. */
export function Cautions({ cautions }: { cautions: { line: string; reason: string }[] }) {
  return cautions.map((c) => (
    <details key={c.line} className={styles.caution}>
      <summary>{c.line}</summary>
      <p>{c.reason}</p>
    </details>
  ));
}
