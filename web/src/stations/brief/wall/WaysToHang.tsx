import type { Schemas } from "../../../api/client";
import { PANELS } from "../../../api/words";
import { useBench } from "../../../bench/context";
import { unitWord, written } from "../../../bench/lengths";
import { Acts } from "../../../kit/Section";
import styles from "../Brief.module.css";
import { Length } from "../Length";
import { type Candidate, useWall, type Wall } from "./useWall";

/** The ways to hang it that are being compared, and the one in hand. */
export function WaysToHang({ wall }: { wall: Wall }) {
  const { view, changes } = useBench();
  const { set } = useWall();
  const { units } = view.piece.intent;
  const { size } = view.piece.brief;
  const add = (panels: Schemas["Panels"]) => {
    const share = { single: 1, pair: 2, triptych: 3 }[panels];
    const candidate: Candidate = {
      panels,
      size: { width: Math.max(10, size.width / share), height: size.height },
      gap: panels === "single" ? 0 : 30,
      at: { x: 0.42, y: 0.4 },
    };
    set({ candidates: [...wall.candidates, candidate], taken: wall.candidates.length });
  };
  const chosen = wall.candidates.length ? (wall.taken ?? 0) : null;
  const candidate = chosen === null ? null : wall.candidates[chosen];
  const drawn = chosen === null ? null : view.on_wall[chosen];
  const edit = (change: Partial<Candidate>) =>
    candidate && set({ candidates: wall.candidates.map((c, n) => (n === chosen ? { ...c, ...change } : c)) });
  return (
    <>
      <hr />
      <h3>Ways to hang it</h3>
      <ul className={styles.candidates}>
        {wall.candidates.map((c, i) => (
          <li key={i}>
            <button type="button" className="plain" aria-pressed={i === chosen} onClick={() => set({ taken: i })}>
              {PANELS.find((k) => k.value === c.panels)?.label}, {written(c.size.width, units)} ×{" "}
              {written(c.size.height, units)}
            </button>
            <button
              type="button"
              className="plain"
              aria-label={`Take way ${i + 1} off`}
              onClick={() => set({ candidates: wall.candidates.filter((_, n) => n !== i), taken: null })}
            >
              off
            </button>
          </li>
        ))}
      </ul>
      <Acts>
        {PANELS.map((k) => (
          <button key={k.value} type="button" className="act" onClick={() => add(k.value)}>
            {k.label}
          </button>
        ))}
      </Acts>
      {candidate && (
        <>
          <div className={styles.three}>
            <Length
              label="Wide"
              mm={candidate.size.width}
              units={units}
              least={10}
              most={3000}
              onKeep={(width) => edit({ size: { ...candidate.size, width } })}
            />
            <Length
              label="High"
              mm={candidate.size.height}
              units={units}
              least={10}
              most={3000}
              onKeep={(height) => edit({ size: { ...candidate.size, height } })}
            />
            <Length label="Gap" mm={candidate.gap} units={units} most={500} onKeep={(gap) => edit({ gap })} />
          </div>
          {drawn && (
            <p>
              Its middle hangs{" "}
              <span className="figures">
                {written(drawn.middle_height, units)} {unitWord(units)}
              </span>{" "}
              above the lower edge of the photo. Measure from the floor where the photo does not reach it.
            </p>
          )}
          <Acts>
            <button
              type="button"
              className="act main"
              disabled={candidate.size.width === size.width && candidate.size.height === size.height}
              onClick={() => changes.request({ do: "set-brief", brief: { ...view.piece.brief, size: candidate.size } })}
            >
              {candidate.size.width === size.width && candidate.size.height === size.height
                ? "It is this size"
                : "Make it this size"}
            </button>
            <a href={`/api/pieces/${view.id}/wall/mock-up`} target="_blank" rel="noreferrer">
              Mock-up as a picture
            </a>
          </Acts>
        </>
      )}
    </>
  );
}
