import type { Mix } from "../../api/client";
import { useBench } from "../../bench/context";
import styles from "./Recipe.module.css";

/** A recipe as small heaps of paint, one for each whole part, and the same in words. */
export function Recipe({ mix }: { mix: Mix }) {
  const { box } = useBench();
  const named = mix.parts.map((p) => ({ ...p, owned: box?.pigments.find((q) => q.id === p.pigment) }));
  const words = named.map((p) => `${p.parts} ${p.owned?.name ?? p.pigment}`);
  return (
    <div className={styles.recipe}>
      <span className={styles.heaps} aria-hidden="true">
        {named.map((p) => (
          <span key={p.pigment} className={styles.heap}>
            {Array.from({ length: p.parts }, (_, i) => (
              <i
                key={i}
                style={{
                  background: p.owned
                    ? `rgb(${p.owned.mark.screen.r} ${p.owned.mark.screen.g} ${p.owned.mark.screen.b})`
                    : undefined,
                }}
              />
            ))}
          </span>
        ))}
      </span>
      <span>{named.length === 1 ? `${named[0].owned?.name ?? named[0].pigment} alone` : words.join(" : ")}</span>
    </div>
  );
}
