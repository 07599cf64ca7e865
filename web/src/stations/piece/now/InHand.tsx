import type { AtTheEasel } from "../../../api/useEasel";
import { useBench, useSelection, zoneName } from "../../../bench/context";
import { Note, Section } from "../../../kit/Section";
import { said } from "../../../room/figures";
import styles from "./Now.module.css";

/** Which zones want the pigment that is up, largest first. The pigment is chosen here or in the tray. */
export function InHand({ at }: { at: AtTheEasel }) {
  const { view, box } = useBench();
  const { pigment, selectPigment, selectZone } = useSelection();
  const name = (id: string) => box?.pigments.find((p) => p.id === id)?.name ?? id;
  const held = at.in_hand.find((h) => h.pigment === pigment);
  const zones = (of: number[]) =>
    of.map((z) => (
      <button key={z} type="button" className="act" onClick={() => selectZone(z)}>
        {z} {zoneName(view, z)}
      </button>
    ));
  return (
    <Section title="Pigment in hand">
      <p className={styles.hands}>
        {at.in_hand.map((h) => (
          <button
            key={h.pigment}
            type="button"
            className="act"
            aria-pressed={h.pigment === pigment}
            onClick={() => selectPigment(h.pigment === pigment ? null : h.pigment)}
          >
            {name(h.pigment)}
          </button>
        ))}
      </p>
      {held && (
        <>
          {held.wants.length > 0 ? (
            <p className={styles.hands}>{zones(held.wants)}</p>
          ) : (
            <Note>Nothing wants it any more.</Note>
          )}
          {held.nearly.length > 0 && <p className={styles.hands}>Nearly the same mix: {zones(held.nearly)}</p>}
          {held.echo && <Note>{said(held.echo.words)}</Note>}
        </>
      )}
    </Section>
  );
}
