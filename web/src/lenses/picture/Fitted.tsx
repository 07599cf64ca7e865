import { useElementSize } from "@mantine/hooks";
import type { ReactNode } from "react";
import { useBench } from "../../bench/context";
import { aspectOf } from "./Picture";
import styles from "./Picture.module.css";

type Beside = {
  /** What stands under the first. */
  own: string;
  /** What stands under the second. */
  words: string;
  show: ReactNode;
};

type Props = {
  children: (width: number, height: number) => ReactNode;
  /** A second picture of the same proportion, shown where the first leaves room for it. */
  beside?: Beside;
};

/** Pixels between two pictures, and of the line of words under them. */
const GAP = 14;
const WORDS = 24;
/** A second picture is worth its place from this share of the first on. */
const WORTH = 0.6;

/** A frame of the proportion of the piece, as large as its room holds. */
export function Fitted({ children, beside }: Props) {
  const { view } = useBench();
  const { ref, width, height } = useElementSize();
  const aspect = aspectOf(view);
  const fitting = (high: number) => Math.max(0, Math.min(width, high * aspect));
  const over = fitting(height - WORDS);
  const pair = beside && width - GAP - over >= WORTH * over ? beside : null;
  const w = pair ? over : fitting(height);
  const second = Math.min(w, width - GAP - w);
  return (
    <div ref={ref} className={styles.room}>
      {w > 0 && (
        <figure className={styles.frame} style={{ width: w }}>
          <div className={styles.picture} style={{ width: w, height: w / aspect }}>
            {children(w, w / aspect)}
          </div>
          {pair && <figcaption>{pair.own}</figcaption>}
        </figure>
      )}
      {w > 0 && pair && (
        <figure className={styles.frame} style={{ width: second, left: w + GAP }}>
          <div className={styles.picture} style={{ width: second, height: second / aspect }}>
            {pair.show}
          </div>
          <figcaption>{pair.words}</figcaption>
        </figure>
      )}
    </div>
  );
}
