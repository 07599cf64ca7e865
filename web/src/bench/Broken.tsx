import { useRouteError } from "react-router";
import styles from "./Broken.module.css";

/** What stands in place of a page that broke. */
export function Broken() {
  const error = useRouteError();
  const told = error instanceof Error ? error.message : String(error);
  return (
    <main className={styles.broken} role="alert">
      <h1>This page broke</h1>
      <p>Nothing is lost: every change was saved before it was shown as done.</p>
      <p>
        <button type="button" className="act main" onClick={() => window.location.reload()}>
          Load it again
        </button>
        <a className="act" href="/">
          Back to the studio
        </a>
      </p>
      <p>If it breaks again, undo the last change from another station, and keep these words for whoever mends it:</p>
      <pre>{told}</pre>
    </main>
  );
}
