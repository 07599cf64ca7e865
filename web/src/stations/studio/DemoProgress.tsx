import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { useStudio } from "../../lenses/stroke/useGround";
import styles from "./DemoProgress.module.css";

/** Progress of filling a demo studio that is already open; nothing in any other. What the journal shows grows with it. */
export function DemoProgress() {
  const queries = useQueryClient();
  const filling = useStudio().data?.filling;
  const share = filling?.share;
  // biome-ignore lint/correctness/useExhaustiveDependencies: each step of the filling adds to the journal, its end too.
  useEffect(() => {
    for (const key of ["journal", "journal-choices", "learnt"]) queries.invalidateQueries({ queryKey: [key] });
  }, [queries, share]);
  if (!filling) return null;
  if (filling.problem) {
    return (
      <p className={styles.stopped} role="alert">
        The demo studio is incomplete: {filling.problem} Start the program again to fill it.
      </p>
    );
  }
  return (
    <p className={styles.filling} role="status">
      <span>The first piece is ready: open it. Four more and two years of finished work follow within a minute.</span>
      <progress max={1} value={filling.share} aria-label="Filling the demo studio" />
    </p>
  );
}
