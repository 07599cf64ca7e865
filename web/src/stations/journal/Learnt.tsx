import { useEffect } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useLearnt, useStudioWork } from "../../api/useJournal";
import { mediumName } from "../../bench/stations";
import { Act } from "../../kit/Act";
import { Acts, Note } from "../../kit/Section";
import { useStudio } from "../../lenses/stroke/useGround";
import { said } from "../../room/figures";
import styles from "./Journal.module.css";
import { PlotFigure } from "./PlotFigure";
import { SharedSets } from "./SharedSets";

/** Pieces a set without the usual pigments is looked for at once. */
const LATEST = 3;

/** What the journal shows that no one sees by hand. */
export function Learnt() {
  const learnt = useLearnt().data;
  const measuring = useStudioWork();
  useEffect(() => {
    document.title = "What the journal shows · Lean Swatch";
  }, []);
  return (
    <main className={styles.learnt}>
      <header className={styles.head}>
        <h1>What the journal shows</h1>
        <p>
          <Link to="/">The studio</Link> · <Link to="/journal">The journal</Link>
        </p>
      </header>
      {learnt && learnt.unmeasured > 0 && (
        <Acts>
          {measuring.running ? (
            <>
              <progress max={1} value={measuring.job?.share ?? 0} aria-label="Measuring finished pieces" />
              <Act onDo={measuring.cancel}>Stop</Act>
            </>
          ) : (
            <Act main onDo={measuring.measure}>
              Measure {learnt.unmeasured} finished {learnt.unmeasured === 1 ? "piece" : "pieces"}
            </Act>
          )}
          <Note>Their last photo against the plan, and where the time went. Some seconds each, once.</Note>
        </Acts>
      )}
      <div className={styles.plots}>
        {learnt?.plots.map((p) => (
          <PlotFigure key={p.key} of={p} />
        ))}
      </div>
      {learnt?.habits.map((h) => (
        <HabitPart key={h.medium} of={h} />
      ))}
    </main>
  );
}

/** What is taken every time in a medium, and the exact price of doing without. */
function HabitPart({ of }: { of: Schemas["Habit"] }) {
  const work = useStudioWork();
  const pieces = useStudio().data?.pieces ?? [];
  const latest = pieces.filter((p) => p.medium === of.medium && p.zones > 0).slice(0, LATEST);
  return (
    <section className={styles.habit} aria-label={`Habits in ${mediumName(of.medium)}`}>
      <h2>Habits in {mediumName(of.medium)}</h2>
      <p>{said(of.says)}</p>
      {of.usual.length > 0 && latest.length > 0 && (
        <Acts>
          <Act
            onDo={() =>
              work.oneSet(
                latest.map((p) => p.id),
                of.usual.map((u) => u.pigment),
              )
            }
            disabled={work.running}
          >
            What would it cost without {of.usual.length === 1 ? "it" : "them"}?
          </Act>
          {work.running && (
            <>
              <progress
                max={1}
                value={work.job?.share ?? 0}
                aria-label="Looking for a set without the usual pigments"
              />
              <Act onDo={work.cancel}>Stop</Act>
            </>
          )}
          <Note>The best sets for {latest.map((p) => p.title).join(", ")}, looked for to the end.</Note>
        </Acts>
      )}
      {work.job?.finished && !work.job.problem && (
        <SharedSets of={work.job.shared} without={of.usual.map((u) => u.name)} />
      )}
    </section>
  );
}
