import type { Srgb8 } from "../../api/client";
import type { EntryView } from "../../api/useJournal";
import { dayWord } from "../piece/lasting";
import styles from "./Journal.module.css";

export const css = (c: Srgb8) => `rgb(${c.r} ${c.g} ${c.b})`;

/** One entry on the wall: its picture, planned beside painted, or its colours where it has none. */
export function Tile({
  of,
  selected,
  picked,
  onSelect,
}: {
  of: EntryView;
  selected: boolean;
  picked: boolean;
  onSelect: () => void;
}) {
  const { entry } = of;
  return (
    <li data-wide={!!of.painted}>
      <button type="button" className={styles.tile} aria-pressed={selected} onClick={onSelect}>
        <span className={styles.shown}>
          <Shown of={of} />
        </span>
        <span className={styles.caption}>
          <b>{entry.of}</b>
          <span>
            {picked ? "✓ " : ""}
            {entry.title}
          </span>
          <span>{dayWord(entry.on)}</span>
        </span>
      </button>
    </li>
  );
}

/** The picture of an entry; planned on the left and painted on the right where both are there. */
export function Shown({ of }: { of: EntryView }) {
  if (of.picture) {
    return (
      <>
        <img src={of.picture} alt="" loading="lazy" />
        {of.painted && <img src={of.painted} alt="" loading="lazy" />}
      </>
    );
  }
  const all = of.colours.reduce((sum, c) => sum + c.share, 0) || 1;
  return (
    <span className={styles.strip}>
      {of.colours.slice(0, 12).map((c, i) => (
        <i key={`${i}-${c.lab.l}`} style={{ background: css(c.srgb), flexGrow: c.share / all }} />
      ))}
      {of.read && <i style={{ background: css(of.read), flexGrow: 1 }} />}
    </span>
  );
}
