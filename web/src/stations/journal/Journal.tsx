import { useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { Refused } from "../../api/client";
import { type EntryView, type JournalSearch, useEntries } from "../../api/useJournal";
import { Act } from "../../kit/Act";
import { Acts, Note, Warning } from "../../kit/Section";
import { DemoProgress } from "../studio/DemoProgress";
import { EntryCard } from "./EntryCard";
import styles from "./Journal.module.css";
import { Looking } from "./Looking";
import { Picked } from "./Picked";
import { Tile } from "./Tile";
import { placeOf, usePicked } from "./usePicked";

/** How many entries a page of the wall has. */
const PAGE = 60;
/** Kinds with a picture of their own: what the wall shows until told otherwise. */
const WITH_PICTURE = "piece,study,field-note";

/** The journal: a wall of everything made, to be browsed and searched. */
export function Journal() {
  const [params, setParams] = useSearchParams();
  const [shown, setShown] = useState(PAGE);
  const [selected, setSelected] = useState<number | null>(null);
  const picked = usePicked();
  useEffect(() => {
    document.title = "Journal · Lean Swatch";
  }, []);
  const asked = Object.fromEntries(params) as Record<string, string>;
  const southern = localStorage.getItem("southern") === "yes";
  const search = { kinds: WITH_PICTURE, ...asked, southern, most: Math.min(shown, 200) } as unknown as JournalSearch;
  const found = useEntries(search);
  const ask = (change: Record<string, string | null>) => {
    setShown(PAGE);
    setParams(
      (now) => {
        const next = new URLSearchParams(now);
        for (const [name, said] of Object.entries(change)) said ? next.set(name, said) : next.delete(name);
        return next;
      },
      { replace: true },
    );
  };
  const entries = found.data?.entries ?? [];
  const one = entries.find((e) => e.id === selected) ?? null;
  return (
    <main className={styles.journal}>
      <header className={styles.head}>
        <h1>Journal</h1>
        <p>
          <Link to="/">The studio</Link> · <Link to="/journal/learnt">What it shows</Link>
        </p>
      </header>
      <aside className={styles.looking} aria-label="Looking for">
        <Looking asked={asked} kinds={asked.kinds ?? WITH_PICTURE} onAsk={ask} />
      </aside>
      <section className={styles.wall} aria-label="Entries" aria-busy={found.isFetching}>
        <DemoProgress />
        <p className={styles.count} role="status">
          {found.data ? counted(found.data.all, Object.keys(asked).length > 0) : ""}
        </p>
        {found.error && (
          <Warning>{found.error instanceof Refused ? found.error.problem.detail : String(found.error)}</Warning>
        )}
        {!!found.data?.left && <BeingMade left={found.data.left} />}
        {found.data?.all === 0 && (
          <Acts>
            {Object.keys(asked).length > 0 && (
              <Act main onDo={() => setParams({}, { replace: true })}>
                Show everything
              </Act>
            )}
            <Note>
              Studies, sets, trials, sessions and notes come here by themselves as you work. Nothing is written twice.
            </Note>
          </Acts>
        )}
        {bySeason(entries, !!asked.colour).map(({ head, of }) => (
          <div key={head}>
            {head && <h2 className={styles.season}>{head}</h2>}
            <ul className={styles.tiles}>
              {of.map((e) => (
                <Tile
                  key={e.id}
                  of={e}
                  selected={e.id === selected}
                  picked={picked.has(e)}
                  onSelect={() => setSelected(e.id === selected ? null : e.id)}
                />
              ))}
            </ul>
          </div>
        ))}
        {found.data && found.data.all > entries.length && shown < 200 && (
          <Acts>
            <Act onDo={() => setShown(shown + PAGE)}>Show more</Act>
            <Note>
              {entries.length} of {found.data.all}
            </Note>
          </Acts>
        )}
      </section>
      <aside className={styles.card} aria-label="The one chosen">
        {one ? (
          <EntryCard
            of={one}
            picked={picked.has(one)}
            onPick={placeOf(one) ? () => picked.turn(one) : undefined}
            onAsk={ask}
          />
        ) : (
          <Note>
            Choose a picture to see its words, its pigments and its colours. A colour of it, clicked or dragged to the
            left, finds its like.
          </Note>
        )}
        <Picked picked={picked} />
      </aside>
    </main>
  );
}

const counted = (n: number, asked: boolean) =>
  n === 0
    ? asked
      ? "Nothing like that is in the journal."
      : "Nothing is in the journal yet."
    : `${n} ${n === 1 ? "entry" : "entries"}`;

/** Entries under their season, newest first; in one row where they lie in order of likeness. */
function bySeason(entries: EntryView[], byColour: boolean): { head: string; of: EntryView[] }[] {
  if (byColour) return [{ head: "", of: entries }];
  const groups: { head: string; of: EntryView[] }[] = [];
  for (const e of entries) {
    const last = groups.at(-1);
    if (last?.head === e.season) last.of.push(e);
    else groups.push({ head: e.season, of: [e] });
  }
  return groups;
}

/** The journal is made anew after a start; what is read so far is shown already. */
function BeingMade({ left }: { left: number }) {
  const [most, setMost] = useState(left);
  if (left > most) setMost(left);
  return (
    <p>
      <progress max={most} value={most - left} aria-label="Reading everything for the journal" /> {left} pieces and
      readings are still to be read; more comes in by itself.
    </p>
  );
}
