import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Mark, PieceView, Study, StudySlot } from "../../api/client";
import { Station } from "../../bench/Bench";
import { seen, useBench, zoneName } from "../../bench/context";
import { unit } from "../../bench/stations";
import { Plan } from "../../lenses/picture/Plan";
import { Planned, targetsOf } from "../../lenses/picture/Planned";
import { recipeLine } from "../../lenses/recipe/words";
import { useGround } from "../../lenses/stroke/useGround";
import { PrintCard } from "./PrintCard";
import styles from "./Studies.module.css";
import { StudyCard } from "./StudyCard";

/** Small colour versions of the piece on one sheet: as read, opposites, neighbours. */
export function Studies() {
  const { view } = useBench();
  const [search, setSearch] = useSearchParams();
  const open =
    view.piece.studies.find((s) => s.slot === search.get("study"))?.slot ??
    view.piece.chosen_study ??
    view.piece.studies[0]?.slot ??
    null;
  const select = (slot: StudySlot) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        next.set("study", slot);
        return next;
      },
      { replace: true },
    );
  const [printing, setPrinting] = useState(false);
  const study = view.piece.studies.find((s) => s.slot === open);
  const note = view.study_notes.find((n) => n.slot === open);
  return (
    <Station
      name="Studies"
      surface={<Surface open={open} onSelect={select} printing={printing} onPrint={setPrinting} />}
      card={
        printing ? (
          <PrintCard onClose={() => setPrinting(false)} />
        ) : study && note ? (
          <StudyCard study={study} note={note} />
        ) : (
          <p>Three small versions will lie here.</p>
        )
      }
    />
  );
}

function Surface({
  open,
  onSelect,
  printing,
  onPrint,
}: {
  open: StudySlot | null;
  onSelect: (s: StudySlot) => void;
  printing: boolean;
  onPrint: (on: boolean) => void;
}) {
  const { view, work, box, look, setLook } = useBench();
  const ground = useGround();
  const { studies } = view.piece;
  const running = work.job?.what === "making studies" ? work.job : null;
  if (!view.piece.zones.length || !box) {
    return (
      <p className={styles.first}>
        Studies are made from the zones of a picture and a Box.{" "}
        <Link to={view.piece.zones.length ? "../brief" : "../subject"}>
          {view.piece.zones.length ? "Choose a Box first." : "Give the piece a picture first."}
        </Link>
      </p>
    );
  }
  const stale = view.study_notes.some((n) => n.out_of_date);
  return (
    <>
      <div className={styles.head} role="toolbar" aria-label="Ways to see the studies">
        {(["as-it-is", "values", "warm-cool"] as const).map((l, i) => (
          <button key={l} type="button" className="plain" aria-pressed={look === l} onClick={() => setLook(l)}>
            <kbd className="figures">{"·vw"[i]}</kbd> {["as they are", "values", "warm–cool"][i]}
          </button>
        ))}
        <span className={styles.gap} />
        {running ? (
          <span className={styles.progress} role="status">
            <progress max={1} value={running.share} aria-label="Making studies" />
            <button type="button" className="act" onClick={work.cancel}>
              Cancel
            </button>
          </span>
        ) : (
          <button type="button" className={studies.length ? "act" : "act main"} onClick={work.makeStudies}>
            {studies.length ? "Make them anew" : "Make three studies"}
          </button>
        )}
        {studies.length > 0 && (
          <button type="button" className="act main" aria-pressed={printing} onClick={() => onPrint(!printing)}>
            Print the sheet
          </button>
        )}
      </div>
      {stale && !running && (
        <p className={styles.stale}>
          Zones, locks or the Box changed since these were made. They stay as they were until you make them anew.
        </p>
      )}
      {studies.length ? (
        <Sheet open={open} ground={ground} onSelect={onSelect} />
      ) : (
        <>
          <p className={styles.before}>
            Three quick versions of the same drawing: A as read; B and C with the planned values held and the hues set
            free, B by opposites, C by neighbours. Each finds its own exact lean set.
          </p>
          <Plan {...targetsOf(view, null)} ground={ground} look={look} label="The piece as planned" />
        </>
      )}
    </>
  );
}

/** One study large, to be pointed at; all three small beneath it, and its strokes and recipes in one strip. */
function Sheet({
  open,
  ground,
  onSelect,
}: {
  open: StudySlot | null;
  ground: string;
  onSelect: (s: StudySlot) => void;
}) {
  const { view, look } = useBench();
  const { studies } = view.piece;
  const large = studies.find((s) => s.slot === open) ?? studies[0];
  return (
    <div className={styles.surface}>
      <div className={styles.plan}>
        <Plan marks={marksOf(view, large)} ground={ground} look={look} label={`Study ${large.slot}, large`} />
        <div className={styles.three} role="group" aria-label="Studies">
          {studies.map((s) => (
            <Small key={s.slot} study={s} ground={ground} open={s.slot === large.slot} onSelect={onSelect} />
          ))}
        </div>
      </div>
      <Strip study={large} />
    </div>
  );
}

function Small({
  study,
  ground,
  open,
  onSelect,
}: {
  study: Study;
  ground: string;
  open: boolean;
  onSelect: (s: StudySlot) => void;
}) {
  const { view, look } = useBench();
  const scheme = view.study_notes.find((n) => n.slot === study.slot)?.scheme ?? "";
  const goesOn = view.piece.chosen_study === study.slot;
  return (
    <button type="button" aria-pressed={open} className={`plain ${styles.study}`} onClick={() => onSelect(study.slot)}>
      <span className={styles.frame}>
        <Planned
          view={view}
          marks={marksOf(view, study)}
          ground={ground}
          look={look}
          label={`Study ${study.slot}: ${scheme}`}
        />
      </span>
      <b>
        {study.slot} · {scheme}
      </b>
      <span className={styles.goesOn}>
        {study.pigments.length} {unit(view.piece.brief.medium, study.pigments.length)} of its own
        {goesOn && <b>, goes on</b>}
      </span>
    </button>
  );
}

function Strip({ study }: { study: Study }) {
  const { view, look, box, zone, selectZone } = useBench();
  const marks = marksOf(view, study);
  const name = (id: string) => box?.pigments.find((p) => p.id === id)?.name ?? id;
  const laid = view.derived.order.zones.flatMap((z) => study.mixes.find((m) => m.zone === z) ?? []);
  return (
    <ul className={styles.strip} aria-label={`Strokes and recipes of study ${study.slot}`}>
      {laid.map((m) => (
        <li key={m.zone}>
          <button
            type="button"
            className={`plain ${styles.row}`}
            aria-pressed={zone === m.zone}
            onClick={() => selectZone(m.zone)}
          >
            <i style={{ background: marks.has(m.zone) ? seen(marks.get(m.zone) as Mark, look) : undefined }} />
            <span>
              <b>
                <span className="figures">{m.zone}</span> {zoneName(view, m.zone)}
              </b>
              <span>{recipeLine(m.mix, name)}</span>
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function marksOf(view: PieceView, study: Study): Map<number, Mark> {
  const note = view.study_notes.find((n) => n.slot === study.slot);
  return new Map(study.mixes.flatMap((m, i) => (note?.marks[i] ? [[m.zone, note.marks[i]] as const] : [])));
}
