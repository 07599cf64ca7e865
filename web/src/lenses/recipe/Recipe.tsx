import type { Mix, Schemas } from "../../api/client";
import { useBench } from "../../bench/context";
import { said } from "../../room/figures";
import styles from "./Recipe.module.css";

type Part = Schemas["Part"];

/** A recipe: small heaps of paint, one for each whole part, or its layers with the last laid on top; and the same in words. */
export function Recipe({ mix, told }: { mix: Mix; told: Schemas["Told"] }) {
  const { box } = useBench();
  const owned = (p: Part) => box?.pigments.find((q) => q.id === p.pigment);
  const colour = (p: Part) => {
    const c = owned(p)?.mark.screen;
    return c && `rgb(${c.r} ${c.g} ${c.b})`;
  };
  if (!mix.parts.length) {
    return <p className={styles.recipe}>Leave the ground bare.</p>;
  }
  if (mix.layers?.length) {
    return (
      <ol className={styles.layers}>
        {mix.layers.map((l, i) => (
          <li key={i}>
            <span className={styles.heaps} aria-hidden="true">
              {l.of.map((p) => (
                <Heap key={p.pigment} parts={l.of.length > 1 ? p.parts : 1} colour={colour(p)} />
              ))}
            </span>
            <Said step={told.steps[i]} />
          </li>
        ))}
      </ol>
    );
  }
  if (mix.heaps?.length) {
    return (
      <>
        {told.spoken && <p>{told.spoken[0]?.toUpperCase() + told.spoken.slice(1)}.</p>}
        <ol className={styles.layers}>
          {mix.heaps.map((h, i) => (
            <li key={i}>
              <span className={styles.heaps} aria-hidden="true">
                {h.with.map((p) => (
                  <Heap key={p.pigment} parts={Math.min(p.parts, 4)} colour={colour(p)} />
                ))}
              </span>
              <Said step={told.steps[i]} />
            </li>
          ))}
        </ol>
      </>
    );
  }
  return (
    <div className={styles.recipe}>
      <span className={styles.heaps} aria-hidden="true">
        {mix.parts.map((p) => (
          <Heap key={p.pigment} parts={p.touch ? 0 : p.parts} colour={colour(p)} />
        ))}
      </span>
      <span>{said(told.line)}</span>
    </div>
  );
}

/** One step as it is read out. A bare act follows its "then" without a comma. */
function Said({ step }: { step: Schemas["ToldStep"] | undefined }) {
  if (!step) return null;
  const { what, how } = step;
  return (
    <span>
      {said(what)}
      {how && (what === "then" ? " " : ", ")}
      <i>{said(how)}</i>
    </span>
  );
}

/** One square for each part; a touch is a sliver. */
function Heap({ parts, colour }: { parts: number; colour?: string }) {
  return (
    <span className={styles.heap}>
      {parts === 0 ? (
        <i className={styles.touch} style={{ background: colour }} />
      ) : (
        Array.from({ length: parts }, (_, i) => <i key={i} style={{ background: colour }} />)
      )}
    </span>
  );
}
