import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api } from "../../api/client";
import { useBench, useLooking } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Section } from "../../kit/Section";
import { figure, said } from "../../room/figures";
import { Stroke } from "../stroke/Stroke";
import { useGround } from "../stroke/useGround";
import { NewTrial } from "./NewTrial";
import styles from "./Trials.module.css";

type For = { zone: number } | { cell: number };

/** What was tried for a zone or a cell of the chart, which way it went, and what to add to what lies there. */
export function Trials({ of }: { of: For }) {
  const { view, box } = useBench();
  const { look } = useLooking();
  const ground = useGround();
  const query = "zone" in of ? { zone: of.zone } : { cell: of.cell };
  const found = useQuery({
    queryKey: ["trials", view.id, query, view.revision],
    queryFn: () => answer(api.GET("/api/pieces/{id}/trials", { params: { path: { id: view.id }, query } })),
    enabled: box !== null,
    placeholderData: (old) => old,
  });
  const [open, setOpen] = useState(false);
  if (!box || !found.data) return null;
  const { trials, correction, wanted, next, next_steps } = found.data;
  return (
    <Section title="Trials">
      {trials.length > 0 && (
        <p>
          Really laid: <b>{trials[trials.length - 1].mixed}</b>
        </p>
      )}
      {trials.length > 0 && (
        <ol className={styles.trials}>
          {trials.map((t) => (
            <li key={t.reading}>
              <Stroke marks={[wanted, t.read]} ground={ground} height={30} look={look} label="Wanted, and as it read" />
              <span>
                <b>{t.mixed}</b>
                {t.dries_to ? "Dries to: " : ""}
                {said(t.sentence)} <span className="figures">{figure(t.difference, 1)}</span>
                {t.went && `, ${t.went}`}
              </span>
            </li>
          ))}
        </ol>
      )}
      {correction && (
        <div className={styles.next}>
          <p>
            <b>{said(correction.words)}</b>
          </p>
          {correction.anew && <p>Or mix it again: {correction.anew}.</p>}
          {(correction.add.length > 0 || correction.over.length > 0) && (
            <Stroke
              marks={[wanted, correction.becomes]}
              ground={ground}
              height={30}
              look={look}
              label="Wanted, and what it would become"
            />
          )}
        </div>
      )}
      {open ? (
        <NewTrial of={of} next={next ?? null} steps={next_steps} onDone={() => setOpen(false)} />
      ) : (
        <Act onDo={() => setOpen(true)}>{trials.length ? "Another trial" : "Test this mix"}</Act>
      )}
    </Section>
  );
}
