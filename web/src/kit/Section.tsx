import type { ReactNode } from "react";
import styles from "./kit.module.css";

/**
 * A part of a card under a line, with a head of its own: of the second level where it stands on a page by itself, and only read out
 * where it is bare.
 */
export function Section(props: { title: string; children: ReactNode; level?: 2 | 3; bare?: boolean }) {
  const Head = props.level === 2 ? "h2" : "h3";
  return (
    <section className={styles.section} aria-label={props.title}>
      {!props.bare && <Head>{props.title}</Head>}
      {props.children}
    </section>
  );
}

/** A row of things to do. */
export function Acts({ children }: { children: ReactNode }) {
  return <p className={styles.acts}>{children}</p>;
}

/** A card: what belongs together, one under the other. */
export function Card({ children }: { children: ReactNode }) {
  return <div className={styles.card}>{children}</div>;
}

/** A remark in small letters. */
export function Note({ children }: { children: ReactNode }) {
  return <p className={styles.note}>{children}</p>;
}

/** Something to look out for. */
export function Warning({ children }: { children: ReactNode }) {
  return <p className={styles.warning}>{children}</p>;
}

/** What is known, named and said. */
export function Facts({ of }: { of: [string, ReactNode][] }) {
  return (
    <dl className={styles.facts}>
      {of
        .filter(([, said]) => said !== null && said !== undefined && said !== "")
        .map(([name, said]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd>{said}</dd>
          </div>
        ))}
    </dl>
  );
}
