import { useBench, useSelection, zoneName } from "./context";
import styles from "./Pinned.module.css";

/** References pinned to the chosen zone, over the card of every station. */
export function Pinned() {
  const { view } = useBench();
  const { zone: selected } = useSelection();
  const pinned = selected === null ? [] : view.piece.others.filter((o) => o.pinned.includes(selected));
  if (selected === null || !pinned.length) return null;
  return (
    <section className={styles.pinned} aria-label={`Pinned to ${zoneName(view, selected)}`}>
      {pinned.slice(0, 3).map((o) => (
        <figure key={o.digest}>
          <img src={`/api/pieces/${view.id}/pictures/${o.digest}`} alt={o.file_name} />
          <figcaption>{o.purpose || o.file_name}</figcaption>
        </figure>
      ))}
    </section>
  );
}
