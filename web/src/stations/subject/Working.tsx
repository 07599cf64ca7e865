import { useBench } from "../../bench/context";
import styles from "./Subject.module.css";

/** Progress of long work on the picture, and how to call it off. */
export function Working() {
  const { work } = useBench();
  if (!work.job) return null;
  return (
    <div className={styles.working} role="status">
      <span>{work.job.waits ? `${work.job.what}: it waits until other pictures are done` : work.job.what}</span>
      <progress max={1} value={work.job.share} aria-label={work.job.what} />
      <button type="button" className="act" onClick={work.cancel}>
        Cancel
      </button>
    </div>
  );
}
