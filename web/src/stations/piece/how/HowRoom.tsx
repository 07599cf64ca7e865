import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Schemas } from "../../../api/client";
import { useBench, useLooking } from "../../../bench/context";
import { Act } from "../../../kit/Act";
import { Note } from "../../../kit/Section";
import { Planned } from "../../../lenses/picture/Planned";
import { useGround } from "../../../lenses/stroke/useGround";
import { said } from "../../../room/figures";
import styles from "./How.module.css";

type LayIn = Schemas["LayInOffer"];
type Glaze = Schemas["GlazeOffer"];

/** What could be laid under everything, and over it: each shown before it is dared. */
export function HowRoom() {
  const { view } = useBench();
  const offers = useQuery({
    queryKey: ["easel-offers", view.id, view.revision],
    queryFn: () => answer(api.GET("/api/pieces/{id}/easel/offers", { params: { path: { id: view.id } } })),
    placeholderData: (before) => before,
  });
  const { lay_ins = [], glazes = [] } = offers.data ?? {};
  return (
    <div className={styles.room}>
      <h2>Under it: a value lay-in</h2>
      {offers.data && lay_ins.length === 0 && (
        <Note>No pigment of this set can carry one: its values lie too near together on this ground.</Note>
      )}
      <div className={styles.offers}>
        {lay_ins.map((o) => (
          <LayInOffer key={o.lay_in.pigment} offer={o} />
        ))}
      </div>
      <h2>Over it: one thin layer</h2>
      {offers.data && glazes.length === 0 && (
        <Note>
          Nothing of this set draws the colours together by 3 % or more without taking more value than that is worth.
        </Note>
      )}
      <div className={styles.offers}>
        {glazes.map((o) => (
          <GlazeOffer key={o.glaze.pigment} offer={o} />
        ))}
      </div>
    </div>
  );
}

function useSetEasel() {
  const { changes } = useBench();
  return (change: Partial<Schemas["Easel"]>) =>
    changes.requestNow((v) => ({ do: "set-easel", easel: { ...v.piece.easel, ...change } }));
}

function Picture({ zones, label }: { zones: LayIn["zones"]; label: string }) {
  const { view } = useBench();
  const { look } = useLooking();
  const ground = useGround();
  const marks = new Map(zones.map((z) => [z.zone, z.mark] as const));
  return <Planned view={view} marks={marks} ground={ground} look={look} label={label} />;
}

function LayInOffer({ offer }: { offer: LayIn }) {
  const { view, box } = useBench();
  const set = useSetEasel();
  const name = box?.pigments.find((p) => p.id === offer.lay_in.pigment)?.name ?? offer.lay_in.pigment;
  const taken = view.piece.easel.lay_in?.pigment === offer.lay_in.pigment;
  return (
    <article className={styles.offer} aria-label={`Lay-in of ${name}`}>
      <Picture zones={offer.zones} label={`Values laid in with ${name}`} />
      <h3>{name}</h3>
      <Note>{offer.shows}</Note>
      <Act pressed={taken} onDo={() => set({ lay_in: taken ? null : offer.lay_in })}>
        {taken ? "Leave it out" : "Lay it in"}
      </Act>
    </article>
  );
}

function GlazeOffer({ offer }: { offer: Glaze }) {
  const { view, box } = useBench();
  const [compared, setCompared] = useState(false);
  const set = useSetEasel();
  const name = box?.pigments.find((p) => p.id === offer.glaze.pigment)?.name ?? offer.glaze.pigment;
  const taken = view.piece.easel.glaze?.pigment === offer.glaze.pigment;
  const without = view.derived.mixes.map((m) => ({ zone: m.zone, mark: m.given }));
  return (
    <article className={styles.offer} aria-label={`Last layer of ${name}`}>
      <Picture zones={compared ? without : offer.zones} label={compared ? "Without it" : `Under ${name}`} />
      <h3>{name}</h3>
      <Note>
        {said(`${offer.words} ${offer.moves.slice(0, 3).join("; ")}`)}
        {offer.moves.length > 0 && "."}
      </Note>
      <p>
        <Act pressed={compared} onDo={() => setCompared(!compared)}>
          Without it
        </Act>{" "}
        <Act pressed={taken} onDo={() => set({ glaze: taken ? null : offer.glaze })}>
          {taken ? "Leave it out" : "Dare it"}
        </Act>
      </p>
    </article>
  );
}
