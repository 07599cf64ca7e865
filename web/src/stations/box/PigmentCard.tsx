import { NumberInput, TextInput } from "@mantine/core";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { answer, api, type BoxView, type PigmentView, type Schemas } from "../../api/client";
import { useBoxChange } from "../../api/useBox";
import { useSeen } from "../../api/useSeen";
import { capital, temperatureWord, useSelection } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Elsewhere } from "../../kit/Elsewhere";
import { Acts, Card, Facts, Section, Warning } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import { chromaOf } from "../../lenses/round/Round";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { figure, said } from "../../room/figures";

const percent = (share: number | null | undefined) => (share == null ? "" : Math.round(share * 100));
const share = (percent: number | string) => (percent === "" ? null : Math.min(1, Math.max(0, Number(percent) / 100)));

/** One pigment: what it can do, where its numbers come from, and what the painter says of it. */
export function PigmentCard({ box, p }: { box: BoxView; p: PigmentView }) {
  const { selectPigment } = useSelection();
  const ground = useGround();
  const change = useBoxChange();
  const [, setSearch] = useSearchParams();
  const read = () =>
    setSearch((old) => {
      const next = new URLSearchParams(old);
      next.set("room", "readings");
      return next;
    });
  return (
    <Card>
      <h2>{capital(p.name)}</h2>
      <Stroke marks={[p.mark]} ground={ground} height={74} label={p.name} />
      <p>{said(p.known_in_full)}</p>
      <Facts
        of={[
          ["Colour Index", p.colour_index.join(" + ")],
          ["value", `${figure(p.mark.value, 1)}`],
          ["temperature", temperatureWord(p.mark.temperature)],
          ["chroma", `${figure(chromaOf(p.mark), 0)}`],
          ["strength", `${Math.round(p.strength * 100)} %`],
          ["light-fastness", p.lightfastness],
          ["paper", [p.staining && "staining", p.granulating && "granulating"].filter(Boolean).join(", ")],
          ["in sets of", p.used_in ? `${p.used_in} ${p.used_in === 1 ? "piece" : "pieces"}` : "no piece"],
          ["left", p.owned.left == null ? "" : `${percent(p.owned.left)} %`],
          ["lent to", p.owned.lent_to],
        ]}
      />
      {p.hazard && (
        <Warning>Contains {p.hazard}: the label and safety data sheet come first; follow local rules.</Warning>
      )}
      <Acts>
        <Act onDo={read} main>
          Read it
        </Act>
        <Act
          onDo={() => {
            selectPigment(null);
            const path = { id: box.id, pigment: p.id };
            change.mutate(() => answer(api.DELETE("/api/boxes/{id}/pigments/{pigment}", { params: { path } })));
          }}
        >
          Take it out of the Box
        </Act>
      </Acts>
      <Described box={box} p={p} />
    </Card>
  );
}

/** Media whose sticks and pencils are hard or soft. */
const HARD_OR_SOFT: Schemas["Medium"][] = ["soft-pastel", "pencil"];

/** The use of covering in a medium; nothing with pens, which all let through. */
const COVERING: Partial<Record<Schemas["Medium"], string>> = {
  "soft-pastel": "Below 35 it is not laid over what is darker.",
  pencil: "Below 35 it is not laid over what is darker.",
  watercolour: "Above 65 it makes no glaze.",
  oil: "Above 65 it makes no glaze.",
};

const saidOf = (p: PigmentView) => ({
  name: p.name,
  colour_index: p.colour_index.join(" "),
  lightfastness: p.lightfastness,
  hazard: p.hazard,
  staining: p.staining,
  granulating: p.granulating,
  owned: p.owned,
});

/** What the painter says of it: label, what is left, where it is. */
function Described({ box, p }: { box: BoxView; p: PigmentView }) {
  const change = useBoxChange();
  const { seen, took, elsewhere } = useSeen(p.version);
  const [said, setSaid] = useState(() => saidOf(p));
  const set = (to: Partial<typeof said>) => setSaid({ ...said, ...to });
  const own = (to: Partial<typeof said.owned>) => set({ owned: { ...said.owned, ...to } });
  const keep = () =>
    change.mutate(
      () =>
        answer(
          api.PUT("/api/boxes/{id}/pigments/{pigment}", {
            params: { path: { id: box.id, pigment: p.id }, query: { seen } },
            body: { ...said, colour_index: said.colour_index.split(/[\s,+]+/).filter(Boolean) },
          }),
        ),
      { onSuccess: (now) => took(now.pigments.find((q) => q.id === p.id)?.version ?? seen) },
    );
  const { owned } = said;
  return (
    <Section title="What you say of it">
      {elsewhere && !change.isPending && (
        <Elsewhere
          what="pigment"
          onTake={() => {
            took(p.version);
            setSaid(saidOf(p));
          }}
        />
      )}
      <TextInput label="Name" value={said.name} maxLength={80} onChange={(e) => set({ name: e.currentTarget.value })} />
      <TextInput
        label="Label as printed"
        value={owned.label}
        maxLength={200}
        onChange={(e) => own({ label: e.currentTarget.value })}
      />
      <TextInput
        label="Colour Index names"
        value={said.colour_index}
        onChange={(e) => set({ colour_index: e.currentTarget.value })}
      />
      <NumberInput
        label="How much is left, %"
        description="With 15 or less it is kept for small zones."
        min={0}
        max={100}
        value={percent(owned.left)}
        onChange={(v) => own({ left: share(v) })}
      />
      <TextInput
        label="Lent to"
        value={owned.lent_to}
        maxLength={200}
        onChange={(e) => own({ lent_to: e.currentTarget.value })}
      />
      <Tick on={owned.used_up} onTick={(used_up) => own({ used_up })}>
        Used up: kept for its readings, never searched
      </Tick>
      <details>
        <summary>More</summary>
        <TextInput
          label="Light-fastness as stated"
          value={said.lightfastness}
          maxLength={60}
          onChange={(e) => set({ lightfastness: e.currentTarget.value })}
        />
        <TextInput
          label="What calls for a caution"
          value={said.hazard}
          maxLength={60}
          onChange={(e) => set({ hazard: e.currentTarget.value })}
        />
        {HARD_OR_SOFT.includes(box.medium) && (
          <NumberInput
            label="Hard, % (0 soft)"
            description="A plainly harder one is not laid over a softer one."
            min={0}
            max={100}
            value={percent(owned.hardness)}
            onChange={(v) => own({ hardness: share(v) })}
          />
        )}
        {COVERING[box.medium] && (
          <NumberInput
            label="Covering, % (0 see-through)"
            description={COVERING[box.medium]}
            min={0}
            max={100}
            value={percent(owned.covering)}
            onChange={(v) => own({ covering: share(v) })}
          />
        )}
        <TextInput
          label="Where it was bought"
          value={owned.bought}
          maxLength={200}
          onChange={(e) => own({ bought: e.currentTarget.value })}
        />
        <Tick on={said.staining} onTick={(staining) => set({ staining })}>
          staining
        </Tick>
        <Tick on={said.granulating} onTick={(granulating) => set({ granulating })}>
          granulating
        </Tick>
      </details>
      <Act onDo={keep} disabled={!said.name.trim()}>
        Keep this
      </Act>
    </Section>
  );
}
