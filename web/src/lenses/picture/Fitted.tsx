import { useElementSize } from "@mantine/hooks";
import type { ReactNode } from "react";
import { useBench } from "../../bench/context";
import { aspectOf } from "./Picture";
import styles from "./Picture.module.css";

/** A frame of the proportion of the piece, as large as its room holds. */
export function Fitted({ children }: { children: (width: number, height: number) => ReactNode }) {
  const { view } = useBench();
  const { ref, width, height } = useElementSize();
  const aspect = aspectOf(view);
  const w = Math.max(0, Math.min(width, height * aspect));
  return (
    <div ref={ref} className={styles.room}>
      {w > 0 && (
        <div className={styles.picture} style={{ width: w, height: w / aspect }}>
          {children(w, w / aspect)}
        </div>
      )}
    </div>
  );
}
