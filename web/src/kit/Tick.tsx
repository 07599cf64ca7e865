import type { ReactNode } from "react";
import styles from "./kit.module.css";

/** Something that is so or not. */
export function Tick({
  on,
  onTick,
  children,
  disabled,
}: {
  on: boolean;
  onTick: (on: boolean) => void;
  children: ReactNode;
  disabled?: boolean;
}) {
  return (
    <label className={styles.tick}>
      <input type="checkbox" checked={on} disabled={disabled} onChange={(e) => onTick(e.currentTarget.checked)} />
      <span>{children}</span>
    </label>
  );
}
