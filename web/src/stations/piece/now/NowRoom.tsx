import { useSearchParams } from "react-router";
import type { AtTheEasel, Stage } from "../../../api/useEasel";
import { useBench, useLooking } from "../../../bench/context";
import { Plan } from "../../../lenses/picture/Plan";
import styles from "./Now.module.css";
import { OrderStrip } from "./OrderStrip";

/** The picture as it should look now, or after a stage, over the strip of what is done when. */
export function NowRoom({ at }: { at: AtTheEasel }) {
  const { view } = useBench();
  const { look, flat } = useLooking();
  const [stage, setStage] = useStage(at);
  const shown = at.looks.find((l) => l.stage === stage) ?? at.now;
  const marks = new Map(shown.zones.filter((z) => !z.bare).map((z) => [z.zone, z.mark] as const));
  const ground = shown.ground.screen;
  const name = at.stages.find((s) => s.stage === stage)?.name;
  const painted = `/api/pieces/${view.id}/easel/look?width=900&of=${view.revision}${stage ? `&stage=${stage}` : ""}`;
  return (
    <div className={styles.room}>
      <div className={styles.picture}>
        <Plan
          marks={marks}
          ground={`rgb(${ground.r} ${ground.g} ${ground.b})`}
          look={look}
          beside={name ? `after ${name.toLowerCase()}` : "as it should look now"}
          label={name ? `The piece after ${name.toLowerCase()}` : "The piece as it should look now"}
          painted={flat ? undefined : painted}
          outlined
        />
      </div>
      <fieldset className={styles.stages}>
        <legend>How it should look</legend>
        <button type="button" className="plain" aria-pressed={!stage} onClick={() => setStage(null)}>
          now
        </button>
        {at.looks.map(
          (l) =>
            l.stage && (
              <button
                key={l.stage}
                type="button"
                className="plain"
                aria-pressed={stage === l.stage}
                onClick={() => setStage(l.stage ?? null)}
              >
                {at.stages.find((s) => s.stage === l.stage)?.name.toLowerCase()}
              </button>
            ),
        )}
      </fieldset>
      {shown.wrong.length > 0 && (
        <ul className={styles.wrong} aria-label="What looks wrong and comes right">
          {shown.wrong.slice(0, 2).map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
      )}
      <OrderStrip at={at} />
    </div>
  );
}

/** The stage looked at, in the address; none for now. */
function useStage(at: AtTheEasel): [Stage | null, (s: Stage | null) => void] {
  const [search, setSearch] = useSearchParams();
  const stage = at.looks.find((l) => l.stage === search.get("stage"))?.stage ?? null;
  const set = (s: Stage | null) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (s) next.set("stage", s);
        else next.delete("stage");
        return next;
      },
      { replace: true },
    );
  return [stage, set];
}
