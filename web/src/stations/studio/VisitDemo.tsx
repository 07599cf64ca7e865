import { useStudioWork } from "../../api/useJournal";
import { Act } from "../../kit/Act";
import styles from "./Studio.module.css";

/** Opens the demo studio, which lies at an address and in a file of its own. */
export function VisitDemo({ main = false }: { main?: boolean }) {
  const work = useStudioWork();
  const visit = async () => {
    const ended = await work.visitDemo();
    if (ended?.leads_to) window.location.assign(ended.leads_to);
  };
  if (work.running) {
    return (
      <p className={styles.filling} role="status">
        <span>Opening the demo studio …</span>
        <Act onDo={work.cancel}>Leave it</Act>
      </p>
    );
  }
  if (!main) return <Act onDo={visit}>Open the demo studio</Act>;
  return (
    <div className={styles.filling}>
      <Act onDo={visit}>Open the demo studio</Act>
      <span>Two years of invented work in a file of its own; yours stays as it is.</span>
    </div>
  );
}
