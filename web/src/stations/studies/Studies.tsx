import { useState } from "react";
import { useSearchParams } from "react-router";
import type { PieceView, Schemas, Study } from "../../api/client";
import { Station } from "../../bench/Bench";
import { useBench, useLooking } from "../../bench/context";
import { unit } from "../../bench/stations";
import { Plan } from "../../lenses/picture/Plan";
import { Planned, paintedPlan, paintedStudy, targetsOf, type Way } from "../../lenses/picture/Planned";
import { useGround } from "../../lenses/stroke/useGround";
import { figure } from "../../room/figures";
import { Missing } from "../missing/Missing";
import { useLamp } from "./Lamps";
import { MakeCard } from "./MakeCard";
import { OnTheWall } from "./OnTheWall";
import { PrintCard } from "./PrintCard";
import { marksOf } from "./Strip";
import styles from "./Studies.module.css";
import { StudyCard } from "./StudyCard";
import { useOpenStudy } from "./useOpenStudy";

/** Small colour versions of the piece, side by side; one of them large. */
export function Studies() {
  const { view } = useBench();
  const { open } = useOpenStudy();
  const [printing, setPrinting] = useState(false);
  const note = view.study_notes.find((n) => n.number === open?.number);
  return (
    <Station
      name="Studies"
      surface={<Surface open={open} printing={printing} onPrint={setPrinting} />}
      card={
        printing ? (
          <PrintCard onClose={() => setPrinting(false)} />
        ) : open && note ? (
          <StudyCard key={open.number} study={open} note={note} />
        ) : (
          <MakeCard />
        )
      }
    />
  );
}

function Surface({
  open,
  printing,
  onPrint,
}: {
  open: Study | null;
  printing: boolean;
  onPrint: (on: boolean) => void;
}) {
  const { view, work, box } = useBench();
  const { look, flat } = useLooking();
  const ground = useGround();
  const { studies } = view.piece;
  const running = work.job?.what === "making studies" ? work.job : null;
  const [onWall] = useOnWall();
  if (!view.piece.zones.length || !box?.pigments.length) {
    return <Missing why="Studies are made from the zones of a picture and the pigments of a Box." />;
  }
  const stale = view.study_notes.some((n) => n.out_of_date);
  return (
    <>
      <Head printing={printing} onPrint={onPrint} />
      {running && (
        <p className={styles.progress} role="status">
          <progress max={1} value={running.share} aria-label="Making studies" />
          <button type="button" className="act" onClick={work.cancel}>
            Cancel
          </button>
        </p>
      )}
      {stale && !running && (
        <p className={styles.stale}>
          Zones, locks or the Box changed since these studies were made. They stay as they are until you make new ones.
        </p>
      )}
      {running?.made.length ? (
        <InTheMaking made={running.made} />
      ) : open ? (
        <Large study={open} />
      ) : studies.length ? (
        onWall && hangs(view) ? (
          <OnTheWall />
        ) : (
          <SideBySide />
        )
      ) : (
        <>
          <p className={styles.before}>
            Quick small versions of the same drawing, to choose from before the large one: as measured, in other hues
            with the same values, or in another light. Each finds its own exact lean set.
          </p>
          <Plan
            {...targetsOf(view, null)}
            ground={ground}
            look={look}
            painted={flat ? undefined : paintedPlan(view)}
            label="The piece as planned"
          />
        </>
      )}
    </>
  );
}

function Head({ printing, onPrint }: { printing: boolean; onPrint: (on: boolean) => void }) {
  const { view } = useBench();
  const { look, setLook, flat, setFlat } = useLooking();
  const { open, select } = useOpenStudy();
  const [onWall, hang] = useOnWall();
  return (
    <div className={styles.head} role="toolbar" aria-label="Ways to see the studies">
      {(["as-it-is", "values", "warm-cool"] as const).map((l, i) => (
        <button key={l} type="button" className="plain" aria-pressed={look === l} onClick={() => setLook(l)}>
          <kbd className="figures">{"·vw"[i]}</kbd> {["as they are", "values", "warm–cool"][i]}
        </button>
      ))}
      <button type="button" className="plain" aria-pressed={flat} onClick={() => setFlat(!flat)}>
        <kbd className="figures">f</kbd> flat
      </button>
      {!open && view.piece.studies.length > 0 && <From />}
      {!open && view.piece.studies.length > 0 && hangs(view) && (
        <button type="button" className="plain" aria-pressed={onWall} onClick={() => hang(!onWall)}>
          on the wall
        </button>
      )}
      <span className={styles.gap} />
      {open && (
        <button type="button" className="act" onClick={() => select(null)}>
          All side by side
        </button>
      )}
      {view.piece.studies.length > 0 && (
        <button
          type="button"
          id="print-the-sheet"
          className="act"
          aria-pressed={printing}
          onClick={() => onPrint(!printing)}
        >
          Print the sheet
        </button>
      )}
    </div>
  );
}

/** Metres from which the studies can be looked at, as if they hung there at their true size. */
const DISTANCES = [1, 2, 4, 8];
/** Metres from which a screen is looked at, and CSS pixels in a millimetre. */
const ARM = 0.5;
const PIXELS = 96 / 25.4;

function From() {
  const { from, look } = useDistance();
  return (
    <label className={styles.from}>
      from{" "}
      <select value={from ?? ""} onChange={(e) => look(Number(e.currentTarget.value) || null)}>
        <option value="">near</option>
        {DISTANCES.map((d) => (
          <option key={d} value={d}>
            {d} m
          </option>
        ))}
      </select>
    </label>
  );
}

/** Whether there is a wall to hang studies on, measured and with a place. */
const hangs = (view: PieceView) => view.on_wall.some((w) => w !== null);

/** Whether the studies hang on their wall, kept in the address. */
function useOnWall(): [boolean, (on: boolean) => void] {
  const [search, setSearch] = useSearchParams();
  const hang = (on: boolean) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (on) next.set("on", "wall");
        else next.delete("on");
        return next;
      },
      { replace: true },
    );
  return [search.get("on") === "wall", hang];
}

/** Studies that are made already, while the others still are: flat, to be painted once they are kept. */
function InTheMaking({ made }: { made: Schemas["MadeStudy"][] }) {
  const { view } = useBench();
  const { look } = useLooking();
  const ground = useGround();
  return (
    <div className={styles.all} role="group" aria-label="Studies made so far">
      {made.map((s) => (
        <div key={s.number} className={styles.study} data-study={s.number}>
          <span className={styles.frame}>
            <Planned
              view={view}
              marks={new Map(s.marks.map((m) => [m.zone, m.mark]))}
              ground={ground}
              look={look}
              label={`Study ${s.number}: ${s.scheme}`}
            />
          </span>
          <b>
            <span className="figures">{s.number}</span> {s.scheme}
          </b>
          <span className={styles.under}>
            {s.pigments} {unit(view.piece.brief.medium, s.pigments)}
          </span>
        </div>
      ))}
    </div>
  );
}

/** From how far the studies are looked at, kept in the address; `null` is near. */
function useDistance() {
  const [search, setSearch] = useSearchParams();
  const from = DISTANCES.find((d) => String(d) === search.get("from")) ?? null;
  const look = (metres: number | null) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (metres) next.set("from", String(metres));
        else next.delete("from");
        return next;
      },
      { replace: true },
    );
  return { from, look };
}

/** All studies, as large as they find room, or as small as they look from afar. */
function SideBySide() {
  const { view } = useBench();
  const { studies } = view.piece;
  const { from } = useDistance();
  const size = view.piece.brief.size;
  const long = (view.piece.sheet.longer_side * PIXELS * ARM) / (from ?? 1);
  const wide = from === null ? undefined : Math.max(8, long * Math.min(1, size.width / size.height));
  const across = studies.length <= 2 ? studies.length : studies.length <= 4 ? 2 : studies.length <= 9 ? 3 : 4;
  return (
    <div
      className={styles.all}
      role="group"
      aria-label="Studies"
      style={{
        gridTemplateColumns: wide === undefined ? `repeat(${across}, minmax(0, 1fr))` : `repeat(auto-fill, ${wide}px)`,
      }}
    >
      {studies.map((s) => (
        <Small key={s.number} study={s} width={480} bare={from !== null} />
      ))}
    </div>
  );
}

/** One study large, to be pointed at; the others small beneath it. */
function Large({ study }: { study: Study }) {
  const { view } = useBench();
  const { look, flat } = useLooking();
  const ground = useGround();
  const { marks } = useLamp(study);
  return (
    <div className={styles.plan}>
      <Plan
        marks={marks ?? marksOf(view, study)}
        ways={marks ? undefined : runsOf(view, study)}
        ground={ground}
        look={look}
        painted={flat || marks ? undefined : paintedStudy(view, study, 900)}
        label={`Study ${study.number}, large`}
      />
      <div className={styles.film} role="group" aria-label="Studies">
        {view.piece.studies.map((s) => (
          <Small key={s.number} study={s} width={240} bare />
        ))}
      </div>
    </div>
  );
}

function Small({ study, width, bare }: { study: Study; width: number; bare?: boolean }) {
  const { view } = useBench();
  const { look, flat } = useLooking();
  const ground = useGround();
  const { open, select } = useOpenStudy();
  const scheme = view.study_notes.find((n) => n.number === study.number)?.scheme ?? "";
  const goesOn = view.piece.chosen_study === study.number;
  return (
    <button
      type="button"
      aria-pressed={open?.number === study.number}
      data-study={study.number}
      className={`plain ${styles.study}`}
      onClick={() => select(study.number)}
    >
      <span className={styles.frame}>
        <Planned
          view={view}
          marks={marksOf(view, study)}
          ways={runsOf(view, study)}
          ground={ground}
          look={look}
          painted={flat ? undefined : paintedStudy(view, study, width)}
          label={`Study ${study.number}: ${scheme}`}
        />
      </span>
      <b>
        <span className="figures">{study.number}</span>
        {!bare && ` ${scheme}`}
        {goesOn && ", chosen"}
      </b>
      {!bare && (
        <span className={styles.under}>
          {valuesOf(view, study)} · {study.pigments.length} {unit(view.piece.brief.medium, study.pigments.length)}
        </span>
      )}
    </button>
  );
}

/** Whether a study holds the planned values, or which it has of its own. */
function valuesOf(view: PieceView, study: Study): string {
  const note = view.study_notes.find((n) => n.number === study.number);
  if (!note) return "";
  const wanted = note.wanted.map((m) => m.value);
  if (study.scheme.kind === "light")
    return `values ${figure(Math.min(...wanted), 1)} to ${figure(Math.max(...wanted), 1)}`;
  return note.values_held ? "values held" : `a value ${figure(note.most_off, 1)} off`;
}

/** How the graded zones of a study run. */
function runsOf(view: PieceView, study: Study): Map<number, Way> {
  const note = view.study_notes.find((n) => n.number === study.number);
  const run = (zone: number, i: number): [number, Way][] => {
    const to = note?.runs_to[i];
    const direction = view.piece.zones.find((z) => z.id === zone)?.graded?.direction;
    if (!note || !to || direction === undefined) return [];
    return [
      [
        zone,
        {
          direction,
          stops: [
            { at: 0, mark: note.marks[i] },
            { at: 1, mark: to },
          ],
        },
      ],
    ];
  };
  return new Map(study.mixes.flatMap((m, i) => run(m.zone, i)));
}
