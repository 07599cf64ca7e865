import { Dropzone } from "@mantine/dropzone";
import { useCallback, useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { Station } from "../../bench/Bench";
import { useBench } from "../../bench/context";
import { Picture, type Place } from "../../lenses/picture/Picture";
import { ChartCard, ChartRoom } from "./Chart";
import { CompositionsCard, CompositionsRoom } from "./Compositions";
import { Looks } from "./Looks";
import { ComparedCard, LineCard } from "./Measured";
import { PlanesCard, PlanesSurface } from "./Planes";
import { ReferencesCard, ReferencesRoom } from "./References";
import styles from "./Subject.module.css";
import { HINTS, STRAIGHT, type Tool } from "./tools";
import { WholeCard } from "./WholeCard";
import { PatchCard, ZoneCard } from "./ZoneCard";

const ROOMS = [
  ["picture", "the picture"],
  ["chart", "colour chart"],
  ["references", "references"],
  ["compositions", "compositions"],
] as const;

/** Look, simplify, measure: the reference, its values and its big shapes. */
export function Subject() {
  const [search, setSearch] = useSearchParams();
  const room = ROOMS.find(([r]) => r === search.get("room"))?.[0] ?? "picture";
  const bench = useBench();
  usePaste(bench.work.takeIn);
  const rooms = (
    <nav className={styles.rooms} aria-label="At this station">
      {ROOMS.map(([name, label]) => (
        <button
          key={name}
          type="button"
          className="plain"
          aria-pressed={room === name}
          onClick={() =>
            setSearch(
              (old) => {
                const next = new URLSearchParams(old);
                if (name === "picture") next.delete("room");
                else next.set("room", name);
                return next;
              },
              { replace: true },
            )
          }
        >
          {label}
        </button>
      ))}
    </nav>
  );
  const inRoom = {
    chart: [<ChartRoom key="r" />, <ChartCard key="c" />],
    references: [<ReferencesRoom key="r" />, <ReferencesCard key="c" />],
    compositions: [<CompositionsRoom key="r" />, <CompositionsCard key="c" />],
  };
  if (room === "picture") return <PictureRoom rooms={rooms} />;
  const [surface, card] = inRoom[room];
  return (
    <Station
      name="Subject"
      surface={
        <>
          {rooms}
          {surface}
          <Working />
        </>
      }
      card={card}
    />
  );
}

function PictureRoom({ rooms }: { rooms: React.ReactNode }) {
  const bench = useBench();
  const { view, work, isolate, changes } = bench;
  const [tool, setTool] = useState<Tool | null>(null);
  const [patch, setPatch] = useState<Place | null>(null);
  const [ends, setEnds] = useState<{ what: "line" | "compare"; from: Place; to: Place } | null>(null);
  const [clipped, setClipped] = useState(false);
  const [equalTo, setEqualTo] = useState<number | null>(null);
  const take = useCallback((t: Tool | null) => {
    setTool(t);
    setEnds(null);
  }, []);
  // A tool belongs to what was selected when it was taken up: choosing another zone puts it away.
  // biome-ignore lint/correctness/useExhaustiveDependencies: runs when the chosen zone changes
  useEffect(() => take(null), [bench.zone]);
  useEffect(() => {
    if (!isolate) setPatch(null);
  }, [isolate]);
  useEffect(() => {
    const leave = (e: KeyboardEvent) => {
      if (e.key !== "Escape" || (!tool && !ends)) return;
      e.preventDefault();
      e.stopImmediatePropagation();
      take(null);
    };
    window.addEventListener("keydown", leave, true);
    return () => window.removeEventListener("keydown", leave, true);
  }, [tool, ends, take]);

  const drawn = (stroke: Place[]) => {
    const [from, to] = [stroke[0], stroke[stroke.length - 1]];
    if (tool === "line" || tool === "compare") return setEnds({ what: tool, from, to });
    setTool(null);
    const done =
      tool === "join"
        ? changes.join(stroke)
        : tool === "part" && bench.zone !== null
          ? changes.split(bench.zone, stroke)
          : tool === "redraw" && bench.zone !== null
            ? changes.redraw(bench.zone, stroke)
            : tool === "neutral"
              ? changes.neutral({ x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }, card)
              : tool === "crop"
                ? changes.frame({ straighten: frame?.straighten ?? 0, crop: within(frame?.crop, from, to), fit: false })
                : Promise.resolve();
    done.catch(() => {});
  };
  const [card, setCard] = useState<number | null>(null);
  const frame = view.piece.reference?.frame;
  const address = clipped
    ? `/api/pieces/${view.id}/reference/view?look=clipped&of=${view.revision}`
    : equalTo !== null
      ? `/api/pieces/${view.id}/reference/view?look=equal&value=${equalTo}&of=${view.revision}`
      : undefined;
  const planes = !view.piece.reference && view.piece.planes.length > 0;
  const surface = planes ? (
    <PlanesSurface />
  ) : view.piece.reference || view.outlook.shapes.length ? (
    <>
      <Looks />
      <Picture
        onLine={tool ? drawn : undefined}
        straight={!!tool && STRAIGHT.includes(tool)}
        onPatch={setPatch}
        patch={patch}
        address={address}
        bare={!!ends || clipped || equalTo !== null}
      >
        {tool && <p className={styles.hintOver}>{HINTS[tool]}</p>}
        {ends && <Ends ends={ends} />}
      </Picture>
      <Dropzone.FullScreen
        withinPortal={false}
        onDrop={(files) => files[0] && work.takeIn(files[0])}
        maxFiles={1}
        classNames={{ root: styles.over, inner: styles.overInner }}
        styles={{ fullScreen: { inset: 0 } }}
      >
        <p className={styles.overText}>
          Let go: this picture takes the place of the reference. The old one stays in the history.
        </p>
      </Dropzone.FullScreen>
    </>
  ) : (
    <FirstPicture />
  );
  const cardShown =
    ends?.what === "line" ? (
      <LineCard {...ends} onDone={() => take(null)} />
    ) : ends?.what === "compare" ? (
      <ComparedCard {...ends} onDone={() => take(null)} />
    ) : isolate && patch ? (
      <PatchCard at={patch} onEqual={setEqualTo} />
    ) : bench.zone !== null ? (
      <ZoneCard tool={tool} onTool={take} onEqual={setEqualTo} />
    ) : planes ? (
      <PlanesCard />
    ) : (
      <WholeCard tool={tool} onTool={take} clipped={clipped} onClipped={setClipped} card={card} onCard={setCard} />
    );
  return (
    <Station
      name="Subject"
      surface={
        <>
          {rooms}
          {surface}
          {equalTo !== null && (
            <p className={styles.equal}>
              What is within a quarter step of <span className="figures">{equalTo.toFixed(1)}</span> is shown; the rest
              is grey.{" "}
              <button type="button" className="act" onClick={() => setEqualTo(null)}>
                Show all again
              </button>
            </p>
          )}
          <Working />
        </>
      }
      card={cardShown}
    />
  );
}

/** A part of the part already looked at, as a part of the whole. */
function within(
  crop: { left: number; top: number; width: number; height: number } | null | undefined,
  a: Place,
  b: Place,
) {
  const c = crop ?? { left: 0, top: 0, width: 1, height: 1 };
  const [left, top] = [Math.min(a.x, b.x), Math.min(a.y, b.y)];
  return {
    left: c.left + left * c.width,
    top: c.top + top * c.height,
    width: Math.abs(a.x - b.x) * c.width,
    height: Math.abs(a.y - b.y) * c.height,
  };
}

/** The measuring line, or two rings joined by a hairline. */
function Ends({ ends }: { ends: { what: "line" | "compare"; from: Place; to: Place } }) {
  const { from, to, what } = ends;
  const at = (p: Place) => ({ x: `${p.x * 100}%`, y: `${p.y * 100}%` });
  const [a, b] = [at(from), at(to)];
  return (
    <svg className={styles.ends} aria-hidden="true">
      <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} />
      <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} />
      {what === "compare" &&
        [a, b].map((p, i) => (
          <g key={i}>
            <circle cx={p.x} cy={p.y} r={9} />
            <circle cx={p.x} cy={p.y} r={9} />
          </g>
        ))}
    </svg>
  );
}

function usePaste(takeIn: (file: File) => void) {
  useEffect(() => {
    const paste = (e: ClipboardEvent) => {
      const file = [...(e.clipboardData?.files ?? [])][0];
      if (file) takeIn(file);
    };
    window.addEventListener("paste", paste);
    return () => window.removeEventListener("paste", paste);
  }, [takeIn]);
}

/** Where the horizon lies when a piece begins with planes. */
const FIRST_PLANES = [
  { kind: "sky" as const, part: { left: 0, top: 0, width: 1, height: 0.55 } },
  { kind: "flat" as const, part: { left: 0, top: 0.55, width: 1, height: 0.45 } },
];

function FirstPicture() {
  const { work, changes } = useBench();
  return (
    <>
      <Dropzone
        onDrop={(files) => files[0] && work.takeIn(files[0])}
        multiple={false}
        className={styles.drop}
        inputProps={{ id: "reference-file", "aria-label": "Choose a picture" }}
        aria-label="Drop, paste or choose a picture"
      >
        <div className={styles.dropText}>
          <b>Drop a picture here, paste one, or choose a file</b>
          <p>
            A photo, a scan or a sketch: JPEG, PNG, WebP or TIFF, up to 100 megapixels. The file is kept untouched on
            this machine.
          </p>
        </div>
      </Dropzone>
      <p className={styles.orNothing}>
        No picture?{" "}
        <button
          type="button"
          className="act"
          onClick={() => changes.wish({ do: "lay-planes", planes: FIRST_PLANES }).catch(() => {})}
        >
          Start from a few planes
        </button>
      </p>
    </>
  );
}

/** Progress of long work on the picture, and how to call it off. */
function Working() {
  const { work } = useBench();
  if (!work.job) return null;
  return (
    <div className={styles.working} role="status">
      <span>{work.job.what}</span>
      <progress max={1} value={work.job.share} aria-label={work.job.what} />
      <button type="button" className="act" onClick={work.cancel}>
        Cancel
      </button>
    </div>
  );
}
