import type { Schemas } from "../../api/client";
import { useBench } from "../../bench/context";
import { said } from "../../room/figures";
import styles from "./Mixes.module.css";

/** How the chosen zone reads among its neighbours, with the two remedies where it reads otherwise than meant. */
export function AmongNeighbours({ zone }: { zone: number }) {
  const { view } = useBench();
  const here = view.derived.among.find((a) => a.zone === zone);
  if (!here) return null;
  return (
    <section className={styles.among} aria-label="Among its neighbours">
      <h3>Among its neighbours</h3>
      {here.wait && <p>{here.wait}</p>}
      {here.reads && (
        <>
          <p>With everything in, against how it is meant to look: {lowered(here.reads)}</p>
          {here.own && <Remedy remedy={here.own} />}
          {here.surround && <Remedy remedy={here.surround} />}
          {!here.own && <p>This set has no other recipe for it.</p>}
          {!here.surround && <p>Changing one neighbour is not enough.</p>}
        </>
      )}
    </section>
  );
}

function lowered(sentence: string): string {
  return sentence.charAt(0).toLowerCase() + sentence.slice(1);
}

function Remedy({ remedy }: { remedy: Schemas["Remedy"] }) {
  const { changes } = useBench();
  return (
    <div className={styles.remedy}>
      <button type="button" className="act" onClick={() => changes.request(remedy.request)}>
        {said(remedy.help)}
      </button>
      <p>{remedy.cost}</p>
    </div>
  );
}
