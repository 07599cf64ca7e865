import { NativeSelect } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, type Schemas } from "../../api/client";
import { useMap } from "../../api/useMap";
import { useBench } from "../../bench/context";
import { unitWord, written } from "../../bench/lengths";
import { useNotice } from "../../bench/notice";
import { media, mediumName } from "../../bench/stations";
import { TextAreaField, TextField } from "../../kit/DraftFields";
import { Card } from "../../kit/Section";
import { Cautions } from "../../lenses/Cautions";
import { useStudio } from "../../lenses/stroke/useGround";
import { said } from "../../room/figures";
import { StarterHere } from "../box/StartBox";
import styles from "./Brief.module.css";
import { Length } from "./Length";
import { Moment } from "./Moment";

/** What the piece is: title, what it is for, medium, ground, size, and how it lies on its sheet. */
export function BriefRoom() {
  const { view, changes } = useBench();
  const studio = useStudio();
  const { brief, intent } = view.piece;
  const set = (change: Partial<Schemas["Brief"]>) =>
    changes.request({ do: "set-brief", brief: { ...brief, ...change } });
  const setIntent = (change: Partial<Schemas["Intent"]>) =>
    changes.requestNow((v) => ({ do: "set-intent", intent: { ...v.piece.intent, ...change } }));
  const offered = studio.data?.grounds.filter((g) => g.suits.includes(brief.medium)) ?? [];
  // A ground of one's own may have been changed or removed since the piece was laid on it.
  const grounds = offered.some((g) => g.id === brief.ground) ? offered : [...offered, view.ground];
  const boxes = studio.data?.boxes.filter((b) => b.medium === brief.medium) ?? [];
  const ground = grounds.find((g) => g.id === brief.ground);
  const { units, fit } = intent;
  const setFit = (change: Partial<Schemas["Fit"]>) => setIntent({ fit: { ...fit, ...change } });
  const { carries, suits, proportion } = view.derived.light;
  return (
    <div className={styles.brief}>
      <div className={styles.fields}>
        <TextField label="Title" kept={brief.title} maxLength={80} onKeep={(title) => title.trim() && set({ title })} />
        <TextAreaField
          label="What it is for"
          kept={intent.purpose}
          maxLength={300}
          autosize
          minRows={1}
          placeholder="a gift, a wall, a sheet of practice"
          onKeep={(purpose) => setIntent({ purpose })}
        />
        <div className={styles.two}>
          <TextField
            label="For whom"
            kept={intent.for_whom}
            maxLength={80}
            onKeep={(for_whom) => setIntent({ for_whom })}
          />
          <TextField
            type="date"
            label="Ready by"
            kept={intent.due ?? ""}
            onKeep={(due) => setIntent({ due: due || null })}
          />
        </div>
        <Moment />
        <NativeSelect
          label="Medium"
          value={brief.medium}
          data={media}
          onChange={(e) => {
            const medium = e.currentTarget.value as Schemas["Medium"];
            const usual = studio.data?.grounds.find((g) => g.suits.includes(medium));
            if (usual) set({ medium, ground: usual.id });
          }}
        />
        <NativeSelect
          label={`Ground for ${mediumName(brief.medium)}`}
          value={brief.ground}
          data={grounds.map((g) => ({ value: g.id, label: g.name }))}
          onChange={(e) => set({ ground: e.currentTarget.value })}
        />
        {suits && suits.ground !== brief.ground && (
          <p className={styles.suits}>
            {said(suits.sentence)}{" "}
            <button type="button" className="act" onClick={() => set({ ground: suits.ground })}>
              Take it
            </button>
          </p>
        )}
        <div className={styles.three}>
          <Length
            label="Wide"
            mm={brief.size.width}
            units={units}
            least={10}
            most={3000}
            onKeep={(width) => set({ size: { ...brief.size, width } })}
          />
          <Length
            label="High"
            mm={brief.size.height}
            units={units}
            least={10}
            most={3000}
            onKeep={(height) => set({ size: { ...brief.size, height } })}
          />
          <NativeSelect
            label="Units"
            value={units}
            data={[
              { value: "cm", label: "cm" },
              { value: "inch", label: "inches" },
            ]}
            onChange={(e) => setIntent({ units: e.currentTarget.value as Schemas["Units"] })}
          />
        </div>
        <p className={styles.suits}>
          {said(proportion.sentence)}{" "}
          {proportion.fitted && (
            <button type="button" className="act" onClick={() => proportion.fitted && set({ size: proportion.fitted })}>
              Take the reference's
            </button>
          )}
        </p>
        <div className={styles.three}>
          <Length
            label="Margin"
            mm={fit.margin ?? 0}
            units={units}
            most={200}
            onKeep={(margin) => setFit({ margin })}
          />
          <Length label="Tape" mm={fit.tape ?? 0} units={units} most={60} onKeep={(tape) => setFit({ tape })} />
          <Length label="Edge" mm={fit.edge ?? 0} units={units} most={80} onKeep={(edge) => setFit({ edge })} />
        </div>
        <label className={styles.checks}>
          <input
            type="checkbox"
            checked={!!fit.sheet}
            onChange={() => setFit({ sheet: fit.sheet ? null : (view.derived.light.lies?.sheet ?? brief.size) })}
          />
          the sheet is cut already
        </label>
        {fit.sheet && (
          <div className={styles.pair}>
            <Length
              label="Sheet wide"
              mm={fit.sheet.width}
              units={units}
              least={10}
              most={3000}
              onKeep={(width) => fit.sheet && setFit({ sheet: { ...fit.sheet, width } })}
            />
            <Length
              label="Sheet high"
              mm={fit.sheet.height}
              units={units}
              least={10}
              most={3000}
              onKeep={(height) => fit.sheet && setFit({ sheet: { ...fit.sheet, height } })}
            />
          </div>
        )}
        <NativeSelect
          label="Box"
          value={view.piece.paint_box ?? ""}
          data={[
            ...(view.piece.paint_box ? [] : [{ value: "", label: "none chosen" }]),
            ...boxes.map((b) => ({ value: b.id, label: `${b.name}, ${b.pigments} in it` })),
          ]}
          onChange={(e) =>
            e.currentTarget.value && changes.request({ do: "use-box", paint_box: e.currentTarget.value })
          }
        />
        <SecondMedium boxes={studio.data?.boxes ?? []} />
        {boxes.length === 0 && studio.data && (
          <div>
            <p>There is no Box of {mediumName(brief.medium)} yet. One to start with, of modelled pigments:</p>
            <StarterHere />
          </div>
        )}
      </div>
      <figure className={styles.panel}>
        <SheetDrawing fill={ground?.hex} />
        <figcaption>
          {written(brief.size.width, units)} × {written(brief.size.height, units)} {unitWord(units)}.{" "}
          {said(`${view.derived.light.lies?.sentence ?? ""} ${carries?.sentence ?? ""}`)}
          {ground && <> The ground takes {taken(brief.medium, ground.takes)} (modelled).</>}
        </figcaption>
      </figure>
    </div>
  );
}

/** What joins the medium of the piece, and the Box it is taken from. */
function SecondMedium({ boxes }: { boxes: Schemas["BoxLine"][] }) {
  const { view, changes } = useBench();
  const { together } = view.piece;
  const choices = view.derived.seconds.flatMap((s) =>
    boxes
      .filter((b) => b.medium === s.from)
      .map((b) => ({ value: `${s.second} ${b.id}`, label: `${s.words}, from ${b.name}`, second: s.second, box: b.id })),
  );
  if (!view.derived.seconds.length) return null;
  return (
    <NativeSelect
      label="Second medium"
      value={together ? `${together.second} ${together.paint_box}` : ""}
      description={
        choices.length
          ? undefined
          : `None of your Boxes can join: ${view.derived.seconds.map((s) => s.words).join("; ")}.`
      }
      data={[{ value: "", label: "none: one medium alone" }, ...choices.map(({ value, label }) => ({ value, label }))]}
      onChange={(e) => {
        const chosen = choices.find((c) => c.value === e.currentTarget.value);
        changes.request({
          do: "draw-on-two",
          together: chosen ? { second: chosen.second, paint_box: chosen.box } : null,
        });
      }}
    />
  );
}

/** The drawing on its sheet: tape dotted, margins bare, what runs off drawn heavily. */
function SheetDrawing({ fill }: { fill?: string }) {
  const { view } = useBench();
  const shapes = useMap(view.derived.map);
  const { brief, intent } = view.piece;
  const lies = view.derived.light.lies;
  if (!lies) return null;
  const [sw, sh] = [Math.max(lies.sheet.width, brief.size.width), Math.max(lies.sheet.height, brief.size.height)];
  const scale = Math.min(420 / sw, 400 / sh);
  const off = [Math.max(0, -lies.left), Math.max(0, -lies.top)];
  const tape = intent.fit.tape ?? 0;
  const edge = intent.fit.edge ?? 0;
  const at = (v: number) => v * scale;
  const pad = at(edge) + 2;
  return (
    <svg
      width={at(sw) + 2 * pad}
      viewBox={`0 0 ${at(sw) + 2 * pad} ${at(sh) + 2 * pad}`}
      className={styles.sheet}
      role="img"
      aria-label={lies.sentence}
    >
      <g transform={`translate(${pad} ${pad})`}>
        <rect
          x={at(off[0])}
          y={at(off[1])}
          width={at(lies.sheet.width)}
          height={at(lies.sheet.height)}
          className={styles.paper}
        />
        {tape > 0 && (
          <rect
            x={at(off[0] + lies.left - tape - (intent.fit.margin ?? 0)) + at(tape)}
            y={at(off[1] + lies.top - tape - (intent.fit.margin ?? 0)) + at(tape)}
            width={at(brief.size.width + 2 * (intent.fit.margin ?? 0))}
            height={at(brief.size.height + 2 * (intent.fit.margin ?? 0))}
            className={styles.tape}
          />
        )}
        {edge > 0 && (
          <rect
            x={at(off[0] + lies.left - edge)}
            y={at(off[1] + lies.top - edge)}
            width={at(brief.size.width + 2 * edge)}
            height={at(brief.size.height + 2 * edge)}
            className={styles.tape}
          />
        )}
        <rect
          x={at(off[0] + lies.left)}
          y={at(off[1] + lies.top)}
          width={at(brief.size.width)}
          height={at(brief.size.height)}
          fill={fill}
        />
        {view.derived.shapes.length > 0 && (
          <svg
            x={at(off[0] + lies.left)}
            y={at(off[1] + lies.top)}
            width={at(brief.size.width)}
            height={at(brief.size.height)}
            viewBox={`0 0 ${shapes.width || 1} ${shapes.height || 1}`}
            preserveAspectRatio="xMidYMid meet"
            aria-hidden="true"
          >
            {[...shapes.of].map(([zone, { path }]) => (
              <path key={zone} d={path} fill="none" stroke="#101010" strokeOpacity={0.55} strokeWidth={2} />
            ))}
          </svg>
        )}
        {!lies.fits && (
          <rect
            x={at(off[0])}
            y={at(off[1])}
            width={at(lies.sheet.width)}
            height={at(lies.sheet.height)}
            className={styles.over}
          />
        )}
      </g>
    </svg>
  );
}

/** How much of a medium a ground takes. */
function taken(medium: Schemas["Medium"], takes: Schemas["Takes"]): string {
  const [n, one, many] = {
    "soft-pastel": [takes.pastel, "layer of pastel", "layers of pastel"] as const,
    marker: [takes.ink, "coat of ink", "coats of ink"] as const,
    pencil: [takes.pencil, "layer of pencil", "layers of pencil"] as const,
    watercolour: [takes.wash, "wash", "washes"] as const,
    oil: [takes.paint, "layer of paint", "layers of paint"] as const,
  }[medium];
  return `${n} ${n === 1 ? one : many}`;
}

export function BriefCard() {
  const { view, box } = useBench();
  const navigate = useNavigate();
  const { say, tell } = useNotice();
  const [sure, setSure] = useState(false);
  const remove = async () => {
    try {
      await answer(api.DELETE("/api/pieces/{id}", { params: { path: { id: view.id } } }));
      navigate("/");
      say(`${view.piece.brief.title} was removed.`);
    } catch (e) {
      tell(e);
    }
  };
  return (
    <Card>
      <h2>{view.piece.brief.title}</h2>
      <p>Value first, temperature second, hue last: the comparisons of every station keep that order.</p>
      <Cautions cautions={box?.cautions ?? []} />
      <hr />
      {sure ? (
        <p className={styles.sure}>
          <span>Remove this piece with its history? This cannot be undone.</span>
          <button type="button" className="act main" onClick={remove}>
            Remove it
          </button>
          <button type="button" className="act" onClick={() => setSure(false)}>
            Keep it
          </button>
        </p>
      ) : (
        <button type="button" className="act" onClick={() => setSure(true)}>
          Remove this piece
        </button>
      )}
    </Card>
  );
}
