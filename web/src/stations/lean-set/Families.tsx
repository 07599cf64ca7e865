import type { Schemas } from "../../api/client";
import { capital, useBench } from "../../bench/context";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import styles from "./LeanSet.module.css";

/** A set by its families: each hue with its lights, middles and darks. */
export function Families({ set }: { set: Schemas["SetInFamilies"] }) {
  const { box } = useBench();
  const ground = useGround();
  const pigment = (id: string) => box?.pigments.find((p) => p.id === id);
  return (
    <section aria-label="Families">
      {set.step && <p className={styles.step}>{set.step}.</p>}
      <h3>Families</h3>
      <ul className={styles.families}>
        {set.families.map((f) => (
          <li key={f.name}>
            <span>
              {capital(f.name)}
              {f.complete ? ", complete" : ""}
            </span>
            <span className={styles.familyMembers}>
              {f.members.map((m) => {
                const p = pigment(m.pigment);
                return (
                  p && (
                    <span key={m.pigment} title={`${p.name}, ${m.tone}`}>
                      <Stroke marks={[p.mark]} ground={ground} height={18} label={`${p.name}, ${m.tone}`} />
                    </span>
                  )
                );
              })}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
