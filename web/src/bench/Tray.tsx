import { useState } from "react";
import { useSearchParams } from "react-router";
import { Hint } from "../kit/Hint";
import { LeanCurve } from "../lenses/curve/LeanCurve";
import { Stroke } from "../lenses/stroke/Stroke";
import { useGround } from "../lenses/stroke/useGround";
import { figure } from "../room/figures";
import { useBench, usePreview, useSelection } from "./context";
import { NextStep } from "./NextStep";
import { useNotice } from "./notice";
import { unit } from "./stations";
import styles from "./Tray.module.css";

/** The lean set as wells, always in sight. A pigment dropped here joins the set; taking one off recomputes everything. */
export function Tray() {
  const bench = useBench();
  const selection = useSelection();
  const { preview } = usePreview();
  const { view, changes, box } = bench;
  const { say } = useNotice();
  const ground = useGround();
  const [over, setOver] = useState(false);
  const [, setSearch] = useSearchParams();
  const wells = preview?.data.wells ?? view.derived.wells;
  const set = view.piece.chosen.pigments;
  const findings = (preview?.data.findings ?? view.derived.findings).length;
  // Modelled goes without saying: every pigment is until it was read.
  const knownOf = (id: string) => {
    const p = box?.pigments.find((q) => q.id === id);
    return p ? p.known : "";
  };
  const choose = (pigments: string[], done: string) =>
    changes.request({ do: "choose-set", pigments }).then((kept) => kept && say(done));
  return (
    <footer
      className={styles.tray}
      data-over={over}
      onDragOver={(e) => {
        if (e.dataTransfer.types.includes("text/pigment")) {
          e.preventDefault();
          setOver(true);
        }
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false);
        const id = e.dataTransfer.getData("text/pigment");
        if (id && !set.includes(id)) choose([...set, id], "Put into the set.");
      }}
    >
      <h2 className="out-of-sight">Tray: the lean set</h2>
      {wells.length === 0 ? (
        <p className={styles.empty}>{emptyWords(set.length)}</p>
      ) : (
        <ul className={styles.wells} data-many={wells.length > 16 ? "most" : wells.length > 8 || undefined}>
          {wells.map((w) => (
            <li key={w.pigment} className={styles.well}>
              <button
                type="button"
                className="plain"
                draggable
                onDragStart={(e) => e.dataTransfer.setData("text/pigment", w.pigment)}
                onClick={() => selection.selectPigment(w.pigment)}
                aria-label={`${[w.name, knownOf(w.pigment)].filter(Boolean).join(" ")}, in ${w.zones} zones, ${Math.round(w.share * 100)} % of the paint`}
              >
                <Stroke marks={[w.mark]} ground={ground} height={34} />
                <i className={styles.share} style={{ width: `${Math.max(1, w.share * 100)}%` }} />
                <b>{w.name}</b> {knownOf(w.pigment) && <small>{knownOf(w.pigment)}</small>}
              </button>
              <Hint
                says={`In ${w.zones} zones, ${Math.round(w.share * 100)} % of all paint (the line under the stroke); without it the error rises by ${figure(w.price, 1)}`}
              >
                <span className={styles.facts}>
                  <span>
                    {w.zones} {w.zones === 1 ? "zone" : "zones"} ·
                  </span>{" "}
                  <span>{figure(w.price, w.price < 10 ? 1 : 0)} without</span>
                </span>
              </Hint>
              <button
                type="button"
                className={styles.off}
                onClick={() =>
                  choose(
                    set.filter((p) => p !== w.pigment),
                    `Took ${w.name} off.`,
                  )
                }
                aria-label={`Take ${w.name} off`}
              >
                ×
              </button>
            </li>
          ))}
        </ul>
      )}
      <NextStep short={wells.length > 6} />
      <div className={styles.corner}>
        {findings > 0 && (
          <button
            type="button"
            className="act"
            onClick={() =>
              setSearch((old) => {
                const next = new URLSearchParams(old);
                next.set("findings", "1");
                return next;
              })
            }
          >
            {findings} {findings === 1 ? "finding" : "findings"}
          </button>
        )}
        {view.piece.search && (
          <LeanCurve
            sizes={view.piece.search.sizes}
            chosen={set.length}
            width={240}
            height={78}
            unit={unit(view.piece.brief.medium, 1)}
          />
        )}
      </div>
    </footer>
  );
}

function emptyWords(chosen: number): string {
  if (chosen > 0) return "The set is kept; it shows here again once the piece has zones.";
  return "The lean set will lie here; pigments of the Box can be dropped on it, too.";
}
