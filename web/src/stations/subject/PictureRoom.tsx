import { Dropzone } from "@mantine/dropzone";
import { useCallback, useEffect, useState } from "react";
import { Station } from "../../bench/Bench";
import { type Spot, useBench, useLooking, useSelection } from "../../bench/context";
import { Dials } from "../../lenses/picture/Dials";
import { Picture } from "../../lenses/picture/Picture";
import { figure } from "../../room/figures";
import { Ends } from "./Ends";
import { FirstPicture } from "./FirstPicture";
import { USUAL, useTurn } from "./FormPart";
import { Looks } from "./Looks";
import { ComparedCard, LineCard } from "./Measured";
import { PlanesCard, PlanesSurface } from "./Planes";
import styles from "./Subject.module.css";
import { HINTS, STRAIGHT, type Tool } from "./tools";
import { WholeCard } from "./WholeCard";
import { Working } from "./Working";
import { PatchCard, ZoneCard } from "./ZoneCard";

/** The reference with its zones, and the tools that are drawn on it. */
export function PictureRoom({ rooms }: { rooms: React.ReactNode }) {
  const bench = useBench();
  const selection = useSelection();
  const { view, work, changes } = bench;
  const { isolate } = useLooking();
  const [tool, setTool] = useState<Tool | null>(null);
  const [patch, setPatch] = useState<Spot | null>(null);
  const [ends, setEnds] = useState<{ what: "line" | "compare"; from: Spot; to: Spot } | null>(null);
  const [clipped, setClipped] = useState(false);
  const [turning, setTurning] = useState(USUAL);
  const turn = useTurn(turning);
  const [equalTo, setEqualTo] = useState<number | null>(null);
  const take = useCallback((t: Tool | null) => {
    setTool(t);
    setEnds(null);
  }, []);
  // A tool belongs to what was selected when it was taken up: choosing another zone puts it away.
  // biome-ignore lint/correctness/useExhaustiveDependencies: runs when the chosen zone changes
  useEffect(() => take(null), [selection.zone]);
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

  const drawn = (stroke: Spot[]) => {
    const [from, to] = [stroke[0], stroke[stroke.length - 1]];
    if (tool === "line" || tool === "compare") return setEnds({ what: tool, from, to });
    setTool(null);
    if (tool === "join") changes.join(stroke);
    if (tool === "part" && selection.zone !== null) changes.split(selection.zone, stroke);
    if (tool === "shadow" && selection.zone !== null) turn(selection.zone, stroke);
    if (tool === "redraw" && selection.zone !== null) changes.redraw(selection.zone, stroke);
    if (tool === "neutral") changes.neutral({ x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }, card);
    if (tool === "take") changes.take(to);
    if (tool === "crop") {
      changes.frame({ straighten: frame?.straighten ?? 0, crop: within(frame?.crop, from, to), fit: false });
    }
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
  ) : view.piece.reference || view.derived.shapes.length ? (
    <>
      <Looks />
      <Picture
        onLine={tool ? drawn : undefined}
        straight={!!tool && STRAIGHT.includes(tool)}
        point={tool === "take"}
        onPatch={setPatch}
        patch={patch}
        address={address}
        bare={!!ends || clipped || equalTo !== null}
      >
        {tool && (
          <p className={styles.hintOver}>
            {HINTS[tool]} <i>By key: arrows move a cross on the picture, Enter sets a point.</i>
          </p>
        )}
        {ends && <Ends ends={ends} />}
      </Picture>
      <Dials />
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
    ) : selection.zone !== null ? (
      <ZoneCard turning={turning} onTurning={setTurning} tool={tool} onTool={take} onEqual={setEqualTo} />
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
              What is within a quarter step of <span className="figures">{figure(equalTo, 1)}</span> is shown; the rest
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
  a: Spot,
  b: Spot,
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
