import { NativeSelect } from "@mantine/core";
import type { SetFound } from "../../api/client";
import { useFamilies } from "../../api/useFamilies";
import { capital, numberWord, temperatureWord, useBench, useSelection, zoneName } from "../../bench/context";
import { useNotice } from "../../bench/notice";
import { unit } from "../../bench/stations";
import { Card } from "../../kit/Section";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { figure, said } from "../../room/figures";
import { Alike } from "./Alike";
import { Families } from "./Families";
import styles from "./LeanSet.module.css";
import { OneMore } from "./OneMore";
import { useDecide } from "./useDecide";

/** The set in use, or the one looked at on the curve: its pigments with what each is worth. */
export function SetCard({ looked: pointedAt }: { looked: SetFound | null }) {
  const { view, box } = useBench();
  const { selectPigment } = useSelection();
  const ground = useGround();
  const { search, chosen, brief } = view.piece;
  // What is pointed at and in use already is not another set.
  const inUse =
    pointedAt?.pigments.length === chosen.pigments.length &&
    pointedAt.pigments.every((p) => chosen.pigments.includes(p));
  const looked = inUse ? null : pointedAt;
  const size =
    looked ??
    search?.sizes.find(
      (s) => s.pigments.every((p) => chosen.pigments.includes(p)) && s.pigments.length === chosen.pigments.length,
    );
  const pigments = looked?.pigments ?? chosen.pigments;
  const told = useFamilies().data;
  // By its place on the curve: what was chosen by hand has none.
  const families = chosenMedium(brief.medium) ? told?.[search?.sizes.findIndex((s) => s === size) ?? -1] : undefined;
  if (!pigments.length) {
    return (
      <Card>
        <h2>No set yet</h2>
        <p>Few pigments belong together: their mixes share them. Search, then choose how many are enough.</p>
      </Card>
    );
  }
  const serves = (id: string) => {
    // A graded zone is aimed at more than once.
    const aimed = size?.serves[size.pigments.indexOf(id)]?.map((i) => search?.zones[i] ?? i);
    const n = (aimed && new Set(aimed).size) ?? view.derived.wells.find((w) => w.pigment === id)?.zones;
    return n === undefined ? "" : `${n} ${n === 1 ? "zone" : "zones"}`;
  };
  const price = (id: string) =>
    size?.price_of_dropping[size.pigments.indexOf(id)] ?? view.derived.wells.find((w) => w.pigment === id)?.price;
  return (
    <Card>
      <h2>
        {capital(numberWord(pigments.length))} {unit(brief.medium, pigments.length)}
      </h2>
      {size && (
        <p>
          Average error <span className="figures">{figure(size.pieces[0] ?? size.cost, 1)}</span>. {certainty(size)}.
        </p>
      )}
      {size && size.missing.length > 0 && (
        <p className={styles.caution}>
          No {size.missing.map((f) => f.replace("-", " ")).join(", no ")}: none of its mixes comes near where the plan
          wants it.
        </p>
      )}
      {!looked && view.derived.loosened && <p className={styles.caution}>{view.derived.loosened}</p>}
      {families && <Families set={families} />}
      <ul className={styles.members}>
        {pigments.map((id) => {
          const p = box?.pigments.find((q) => q.id === id);
          return (
            <li key={id}>
              <button type="button" className="plain" onClick={() => selectPigment(id)}>
                {p && <Stroke marks={[p.mark]} ground={ground} height={26} />}
                <b>
                  {p?.name ?? id}
                  <i className={styles.role}>{rolesOf(size, id)}</i>
                </b>
                <span className={styles.serves}>{serves(id)}</span>
                <span className="figures">{priceWord(price(id))}</span>
              </button>
            </li>
          );
        })}
      </ul>
      <p className={styles.small}>Zones it is used in, and how much worse the set is without it.</p>
      {!looked && size && <Alike size={size} />}
      {!looked && <OneMore />}
    </Card>
  );
}

/** Whether a colour is chosen among sticks, pens or pencils rather than mixed. */
const chosenMedium = (medium: string) => medium !== "oil" && medium !== "watercolour";

/** What a pigment is in its set: "dark, cool". */
function rolesOf(size: SetFound | undefined, id: string): string {
  const { roles } = size ?? {};
  if (!roles) return "";
  return (["dark", "light", "warm", "cool"] as const).filter((role) => roles[role] === id).join(", ");
}

/** How sure it is that no other set of this size is better. */
function certainty(size: SetFound): string {
  if (size.proved_optimal) return `Proved best set of ${numberWord(size.pigments.length)}`;
  if (size.within == null) return "Best set found";
  const within = size.within < 0.01 ? figure(Math.ceil(size.within * 1000) / 10, 1) : `${Math.ceil(size.within * 100)}`;
  return `Best set found: at most ${within} % above the best possible`;
}

/** One pigment of the Box: what it is, and whether the search must or must not use it. */
export function PigmentCard({ id }: { id: string }) {
  const { view, box, changes } = useBench();
  const { selectPigment } = useSelection();
  const { say } = useNotice();
  const ground = useGround();
  const p = box?.pigments.find((q) => q.id === id);
  const { locked, excluded, chosen, demands } = view.piece;
  const state = locked.includes(id) ? "locked" : excluded.includes(id) ? "left out" : "free";
  const without = (list: string[]) => list.filter((x) => x !== id);
  const decideFor = useDecide();
  const decide = (next: string) =>
    decideFor({
      do: "set-choice",
      locked: next === "locked" ? [...without(locked), id] : without(locked),
      excluded: next === "left out" ? [...without(excluded), id] : without(excluded),
    }).then(() => say(next === "free" ? `${p?.name}: the search decides.` : `${p?.name}: ${next}.`));
  const mother = demands.mother?.pigment === id ? String(demands.mother.share) : "0";
  const decideMother = (share: number) =>
    decideFor({ do: "set-demands", demands: { ...demands, mother: share ? { pigment: id, share } : null } });
  if (!p) return null;
  const inSet = chosen.pigments.includes(id);
  const zones = view.derived.mixes
    .filter((m) => m.mix.parts.some((x) => x.pigment === id))
    .map((m) => zoneName(view, m.zone));
  return (
    <Card>
      <h2>{capital(p.name)}</h2>
      <p>
        {p.colour_index.length > 0 && `${p.colour_index.join(" + ")} · `}
        {said(p.known_in_full)}
      </p>
      <Stroke marks={[p.mark]} ground={ground} height={74} label={`${p.name} on its ground`} />
      <dl className={styles.readings}>
        <dt>value</dt>
        <dd className="figures">{figure(p.mark.value, 1)}</dd>
        <dt>temperature</dt>
        <dd>{temperatureWord(p.mark.temperature)}</dd>
        <dt>chroma</dt>
        <dd className="figures">{figure(Math.hypot(p.mark.lab.a, p.mark.lab.b), 0)}</dd>
        {p.lightfastness && (
          <>
            <dt>light-fastness</dt>
            <dd>{p.lightfastness}</dd>
          </>
        )}
      </dl>
      {zones.length > 0 && <p>In {zones.join(", ")}.</p>}
      {p.hazard && (
        <p className={styles.caution}>
          Contains {p.hazard}: the label and safety data sheet come first; follow local rules.
        </p>
      )}
      {p.white ? (
        <p>White is free in every mix and never counted.</p>
      ) : (
        <>
          <NativeSelect
            label="The search"
            value={state}
            onChange={(e) => decide(e.currentTarget.value)}
            data={[
              { value: "free", label: "may use it" },
              { value: "locked", label: "must use it" },
              { value: "left out", label: "must leave it out" },
            ]}
          />
          <NativeSelect
            label="In every mix, as the mother colour"
            value={mother}
            onChange={(e) => decideMother(Number(e.currentTarget.value))}
            data={[
              { value: "0", label: "no" },
              { value: "0.05", label: "a twentieth at least" },
              { value: "0.1", label: "a tenth at least" },
              { value: "0.25", label: "a quarter at least" },
            ]}
          />
          <button
            type="button"
            className="act"
            onClick={() =>
              changes.request({
                do: "choose-set",
                pigments: inSet ? without(chosen.pigments) : [...chosen.pigments, id],
              })
            }
          >
            {inSet ? "Take it off the set" : "Put it in the set"}
          </button>
        </>
      )}
      <button type="button" className="act" onClick={() => selectPigment(null)}>
        Back to the set
      </button>
    </Card>
  );
}

const priceWord = (price: number | undefined) => (price === undefined ? "" : figure(price, 1));
