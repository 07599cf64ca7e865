import { useElementSize } from "@mantine/hooks";
import { useState } from "react";
import type { SetFound } from "../../api/client";
import { useAdditions } from "../../api/useAdditions";
import { Station } from "../../bench/Bench";
import { useBench, useSelection } from "../../bench/context";
import { unit } from "../../bench/stations";
import { LeanCurve } from "../../lenses/curve/LeanCurve";
import { Missing } from "../missing/Missing";
import { Asked } from "./Asked";
import { BoxShelf } from "./BoxShelf";
import styles from "./LeanSet.module.css";
import { firstOfEach } from "./OneMore";
import { PigmentCard, SetCard } from "./SetCard";

/** Choose few: what each further pigment buys, and which they are. */
export function LeanSet() {
  const bench = useBench();
  const selection = useSelection();
  // By size, so that what is pointed at follows a new search.
  const [pointedAt, setPointedAt] = useState<number | null>(null);
  const looked = useSizes().find((s) => s.pigments.length === pointedAt) ?? null;
  return (
    <Station
      name="Lean set"
      surface={<Surface onLook={(s) => setPointedAt(s?.pigments.length ?? null)} />}
      card={
        selection.pigment && bench.box?.pigments.some((p) => p.id === selection.pigment) ? (
          <PigmentCard id={selection.pigment} />
        ) : (
          <SetCard looked={looked} />
        )
      }
    />
  );
}

/** What the search under way has found so far, or the last one found. */
function useSizes(): SetFound[] {
  const { view, work } = useBench();
  return work.job?.what === "searching" ? work.job.found : (view.piece.search?.sizes ?? []);
}

function Surface({ onLook }: { onLook: (s: SetFound | null) => void }) {
  const { view, box, work, changes } = useBench();
  const { ref, width } = useElementSize();
  const additions = firstOfEach(useAdditions().data ?? []).filter((a) => a.source !== "owned");
  const { search, chosen, brief } = view.piece;
  const running = work.job?.what === "searching" ? work.job : null;
  const sizes = useSizes();
  const stale = !running && !!search && search.basis !== view.derived.basis;
  const name = (id: string) => box?.pigments.find((p) => p.id === id)?.name ?? id;
  if (!view.piece.zones.length || !box?.pigments.length)
    return <Missing why="The few pigments are found for the zones of a picture, among those you own." />;
  return (
    <div className={styles.surface} ref={ref}>
      <div className={styles.head}>
        <h2>Gain from each added {unit(brief.medium, 1)}</h2>
        {running ? (
          <span className={styles.progress} role="status">
            <progress max={1} value={running.share} aria-label="Searching" />
            <button type="button" className="act" onClick={work.cancel}>
              Cancel
            </button>
          </span>
        ) : (
          <button type="button" className="act main" onClick={work.search}>
            {search ? "Search again" : "Find the smallest sets"}
          </button>
        )}
      </div>
      {stale && (
        <p className={styles.stale}>
          The plan, the Box or the locks changed since this search. The tray is up to date; the curve is not.
        </p>
      )}
      {sizes.length > 0 && width > 0 ? (
        <>
          <LeanCurve
            sizes={sizes}
            chosen={chosen.pigments.length}
            width={width}
            height={210}
            unit={unit(brief.medium, 1)}
            names={name}
            more={running || stale ? undefined : additions}
            onLook={onLook}
            onChoose={running ? undefined : (s) => changes.request({ do: "choose-set", pigments: s.pigments })}
          />
          <p className={styles.sizes}>
            <span>Take</span>
            {sizes.map((s) => (
              <button
                key={s.pigments.length}
                type="button"
                className="act"
                aria-pressed={same(s.pigments, chosen.pigments)}
                disabled={!!running}
                onFocus={() => onLook(s)}
                onBlur={() => onLook(null)}
                onClick={() => changes.request({ do: "choose-set", pigments: s.pigments })}
              >
                the {s.pigments.length}
              </button>
            ))}
          </p>
        </>
      ) : (
        <p className={styles.first}>
          {running
            ? "Going through every recipe of up to three pigments for every zone."
            : `From the ${box.pigments.filter((p) => !p.white && p.second !== "acrylic").length} in ${box.name}, the exact best set of each size up to ${view.piece.aim.largest} for these ${view.piece.zones.length} zones. ${free(brief.medium)}`}
        </p>
      )}
      <Asked />
      <BoxShelf />
    </div>
  );
}

/** What costs no place in a set. */
const free = (medium: string) =>
  medium === "watercolour" || medium === "marker"
    ? "Bare paper is free."
    : medium === "oil"
      ? "White is free."
      : "White is free, and so is bare ground.";

const same = (a: string[], b: string[]) => a.length === b.length && a.every((x) => b.includes(x));
