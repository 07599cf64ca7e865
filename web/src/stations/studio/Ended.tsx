import { useEffect } from "react";
import styles from "./Studio.module.css";

/** The page once the program has ended: where the work lies, and how to open it again. */
export function Ended({ data }: { data: string | null | undefined }) {
  useEffect(() => {
    document.title = "Lean Swatch has ended";
  }, []);
  return (
    <main className={styles.ended}>
      <h1>Lean Swatch has ended</h1>
      <p>Everything is saved. You can close this window.</p>
      {data && (
        <p>
          Your work lies in <b>{data}</b>, with its backups beside it.
        </p>
      )}
      <p>Open Lean Swatch from your menu of programs to go on, then reload this page or open a new one.</p>
    </main>
  );
}
