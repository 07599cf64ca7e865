import { type ReactNode, useMemo } from "react";
import type { Schemas } from "../../api/client";
import { hex } from "../../api/client";
import { figure } from "../../room/figures";
import styles from "./Match.module.css";

type Near = Schemas["Near"];
type Mixed = Schemas["Mixed"];

/** What comes near a colour: the nearest as they are, or how it is mixed. */
export function MatchAnswer({
  found,
  mixes,
  inSet,
  act,
}: {
  found: Schemas["Matches"];
  /** Colours are mixed in this medium rather than chosen. */
  mixes: boolean;
  inSet: (id: string) => boolean;
  act?: (near: Near) => ReactNode;
}) {
  const { nearest, mixes: of_box, mixes_of_set } = found;
  return (
    <div className={styles.answer}>
      {mixes && <Mixes title="From the set" of={mixes_of_set} wanted={nearest.wanted} />}
      {mixes && <Mixes title="From the whole Box" of={of_box} wanted={nearest.wanted} />}
      <section aria-label="Nearest">
        <h3>{mixes ? "Nearest unmixed" : "Nearest in the Box"}</h3>
        <ol className={styles.near}>
          {nearest.near.map((n) => (
            <Line key={n.pigment} near={n} wanted={nearest.wanted} marked={inSet(n.pigment)}>
              {act?.(n)}
            </Line>
          ))}
        </ol>
      </section>
      {(nearest.lighter || nearest.darker) && (
        <section aria-label="Relatives">
          <h3>The same hue, next lighter and next darker than {nearest.near[0]?.name}</h3>
          <ol className={styles.near}>
            {[nearest.lighter, nearest.darker].map(
              (n) =>
                n && (
                  <Line key={n.pigment} near={n} wanted={nearest.wanted} marked={inSet(n.pigment)}>
                    {act?.(n)}
                  </Line>
                ),
            )}
          </ol>
        </section>
      )}
    </div>
  );
}

function Line({
  near,
  wanted,
  marked,
  children,
}: {
  near: Near;
  wanted: Schemas["Mark"];
  marked: boolean;
  children?: ReactNode;
}) {
  return (
    <li>
      <Pair wanted={wanted} given={near.mark} />
      <span>
        <b>{near.name}</b>
        {marked && <i>in the set</i>}
        <span className={styles.off}>{near.off}</span>
      </span>
      <span className={styles.value}>
        value <span className="figures">{figure(near.mark.value, 1)}</span>
      </span>
      <span className={styles.acts}>{children}</span>
    </li>
  );
}

function Mixes({ title, of, wanted }: { title: string; of: Mixed[]; wanted: Schemas["Mark"] }) {
  if (!of.length) return null;
  return (
    <section aria-label={title}>
      <h3>{title}</h3>
      <ol className={styles.near}>
        {of.map((m) => (
          <li key={m.pigments}>
            <Pair wanted={wanted} given={m.mark} />
            <span>
              <b>{m.told.line}</b>
              <span className={styles.off}>
                {m.told.spoken && `${m.told.spoken}. `}
                {m.off}
              </span>
            </span>
            <span className={styles.value}>
              value <span className="figures">{figure(m.mark.value, 1)}</span>
            </span>
            <span />
          </li>
        ))}
      </ol>
    </section>
  );
}

/** The wanted colour with what is given beside it, edge to edge. */
function Pair({ wanted, given }: { wanted: Schemas["Mark"]; given: Schemas["Mark"] }) {
  const [left, right] = useMemo(() => [hex(wanted.screen), hex(given.screen)], [wanted, given]);
  return (
    <svg className={styles.pair} viewBox="0 0 2 1" preserveAspectRatio="none" aria-hidden="true">
      <rect width="1" height="1" fill={left} />
      <rect x="1" width="1" height="1" fill={right} />
    </svg>
  );
}
