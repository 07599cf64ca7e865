import { type Addition, hex } from "../../api/client";
import { useAdditions } from "../../api/useAdditions";
import { useBench, zoneName } from "../../bench/context";
import { figure } from "../../room/figures";
import styles from "./LeanSet.module.css";

const FROM: Record<Addition["source"], string> = {
  owned: "from the Box",
  "brought-back": "brought back",
  bought: "to buy",
};

/** What one more pigment would be worth: from the Box, brought back from those left out, or bought. */
export function OneMore() {
  const { view, changes } = useBench();
  const additions = useAdditions();
  const { chosen, locked, excluded } = view.piece;
  const best = firstOfEach(additions.data ?? []);
  if (!best.length) return null;
  const put = (a: Addition) => changes.request({ do: "choose-set", pigments: [...chosen.pigments, a.pigment] });
  const bringBack = (a: Addition) =>
    changes
      .request({ do: "set-choice", locked, excluded: excluded.filter((p) => p !== a.pigment) })
      .then((done) => done && put(a));
  return (
    <section className={styles.alike} aria-label="One more">
      <h3>One more would help</h3>
      <ul>
        {best.map((a) => (
          <li key={a.pigment}>
            <span title={a.zones.map((z) => zoneName(view, z)).join(", ")}>
              <i className={styles.chip} style={{ background: hex(a.mark.screen) }} />
              {a.name} <i>{FROM[a.source]}</i>
            </span>
            <span className="figures">−{figure(a.gain, 1)}</span>
            {a.source !== "bought" && chosen.pigments.length < 8 && (
              <button
                type="button"
                className="act"
                aria-label={`${a.source === "owned" ? "Put in" : "Bring back"} ${a.name}`}
                onClick={() => (a.source === "owned" ? put(a) : bringBack(a))}
              >
                {a.source === "owned" ? "Put in" : "Bring back"}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The most useful of each source. */
export function firstOfEach(all: Addition[]): Addition[] {
  return all.filter((a, i) => all.findIndex((b) => b.source === a.source) === i);
}
