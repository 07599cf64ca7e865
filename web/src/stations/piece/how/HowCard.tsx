import { NativeSelect, NumberInput } from "@mantine/core";
import type { Schemas } from "../../../api/client";
import type { AtTheEasel } from "../../../api/useEasel";
import { useBench } from "../../../bench/context";
import { Card, Note, Section } from "../../../kit/Section";
import { Tick } from "../../../kit/Tick";
import { typedNumber } from "../../../room/figures";
import { minutesWord } from "../lasting";

type Easel = Schemas["Easel"];

/** Drawing, tone, guard, the air and the hours: what the plan of work is made from. */
export function HowCard({ at }: { at: AtTheEasel }) {
  const { view, box, changes } = useBench();
  const { easel, chosen } = view.piece;
  const set = (change: Partial<Easel>) =>
    changes.requestNow((v) => ({ do: "set-easel", easel: { ...v.piece.easel, ...change } }));
  const draw = (change: Partial<Easel["drawing"]>) => set({ drawing: { ...easel.drawing, ...change } });
  const name = (id: string) => box?.pigments.find((p) => p.id === id)?.name ?? id;
  const left = at.tasks.filter((t) => !t.done && !t.later).reduce((sum, t) => sum + t.minutes, 0);
  return (
    <Card>
      <h2>How it is built</h2>
      <Note>
        {minutesWord(left)} of work are left, as modelled
        {view.piece.sessions.length > 0 && " and set right by what you logged"}.
      </Note>
      {at.layers && <Note>{at.layers}</Note>}
      <Section title="Drawing">
        <NativeSelect
          label="Made with"
          value={easel.drawing.with}
          data={[
            { value: "pencil", label: "a hard pencil" },
            { value: "charcoal", label: "charcoal" },
            { value: "brush", label: "a thin brush" },
            { value: "nothing", label: "nothing: shapes straight away" },
          ]}
          onChange={(e) => draw({ with: e.currentTarget.value as Easel["drawing"]["with"] })}
        />
        <Tick on={easel.drawing.belongs} onTick={(belongs) => draw({ belongs })}>
          its lines belong to the picture
        </Tick>
        <Tick on={easel.drawing.after_lay_in} onTick={(after_lay_in) => draw({ after_lay_in })}>
          over the lay-in, not under it
        </Tick>
      </Section>
      <Section title="Ground and end">
        <NativeSelect
          label="Ground tone"
          value={easel.tone ?? ""}
          data={[
            { value: "", label: "nothing: the ground as it is" },
            ...chosen.pigments.map((p) => ({ value: p, label: name(p) })),
          ]}
          onChange={(e) => set({ tone: e.currentTarget.value || null })}
        />
        <Tick on={easel.left_handed} onTick={(left_handed) => set({ left_handed })}>
          you paint with the left hand
        </Tick>
        <NativeSelect
          label="Final protection"
          value={easel.guard}
          data={[
            { value: "nothing", label: "nothing" },
            { value: "fixative", label: "fixative" },
            { value: "varnish", label: "varnish" },
          ]}
          onChange={(e) => set({ guard: e.currentTarget.value as Easel["guard"] })}
        />
        {view.piece.brief.medium === "pencil" && (
          <Tick on={easel.burnish} onTick={(burnish) => set({ burnish })}>
            it is decided to burnish
          </Tick>
        )}
      </Section>
      <Section title="Drying conditions">
        <NumberInput
          label="Warmth, °C"
          value={easel.air.warmth}
          min={5}
          max={40}
          onBlur={(e) => set({ air: { ...easel.air, warmth: typedNumber(e.currentTarget.value) || 20 } })}
        />
        <NumberInput
          label="Damp, %"
          value={easel.air.damp}
          min={10}
          max={95}
          onBlur={(e) => set({ air: { ...easel.air, damp: typedNumber(e.currentTarget.value) || 50 } })}
        />
        <NumberInput
          label="Minutes of a session"
          value={easel.hours.session}
          min={15}
          max={720}
          onBlur={(e) => set({ hours: { ...easel.hours, session: typedNumber(e.currentTarget.value) || 120 } })}
        />
        <NumberInput
          label="Days from one to the next"
          value={easel.hours.every_days}
          min={1}
          max={30}
          onBlur={(e) => set({ hours: { ...easel.hours, every_days: typedNumber(e.currentTarget.value) || 1 } })}
        />
        {(easel.hours.quicker || at.sessions.quicker_by > 0) && (
          <Tick on={!!easel.hours.quicker} onTick={(quicker) => set({ hours: { ...easel.hours, quicker } })}>
            {easel.hours.quicker
              ? "any order of tones that is quicker"
              : `another order of tones: ${minutesWord(at.sessions.quicker_by)} sooner`}
          </Tick>
        )}
        <Note>Drying is modelled from medium, film, ground and air. A finger at the edge knows better.</Note>
      </Section>
    </Card>
  );
}
