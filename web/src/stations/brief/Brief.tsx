import { NativeSelect, NumberInput, TextInput } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, Refused, type Schemas } from "../../api/client";
import { Station } from "../../bench/Bench";
import { useBench } from "../../bench/context";
import { useNotice } from "../../bench/notice";
import { mediumName } from "../../bench/stations";
import { useStudio } from "../../lenses/stroke/useGround";
import styles from "./Brief.module.css";

/** What the piece is: title, medium, ground, size, Box. */
export function Brief() {
  return <Station name="Brief" surface={<BriefSurface />} card={<BriefCard />} />;
}

function BriefSurface() {
  const { view, changes } = useBench();
  const studio = useStudio();
  const { brief } = view.piece;
  const [title, setTitle] = useState(brief.title);
  const set = (change: Partial<Schemas["Brief"]>) =>
    changes.wish({ do: "set-brief", brief: { ...brief, ...change } }).catch(() => setTitle(brief.title));
  const grounds = studio.data?.grounds.filter((g) => g.suits.includes(brief.medium)) ?? [];
  const boxes = studio.data?.boxes.filter((b) => b.medium === brief.medium) ?? [];
  const size = (side: "width" | "height") => (cm: string | number) => {
    const mm = Number(cm) * 10;
    if (mm >= 10 && mm <= 3000 && mm !== brief.size[side]) set({ size: { ...brief.size, [side]: mm } });
  };
  const { width, height } = brief.size;
  const scale = 380 / Math.max(width, height);
  const ground = grounds.find((g) => g.id === brief.ground);
  return (
    <div className={styles.brief}>
      <div className={styles.fields}>
        <TextInput
          label="Title"
          value={title}
          maxLength={80}
          onChange={(e) => setTitle(e.currentTarget.value)}
          onBlur={() => title.trim() && title !== brief.title && set({ title })}
        />
        <NativeSelect
          label={`Ground for ${mediumName(brief.medium)}`}
          value={brief.ground}
          data={grounds.map((g) => ({ value: g.id, label: g.name }))}
          onChange={(e) => set({ ground: e.currentTarget.value })}
        />
        <div className={styles.pair}>
          <NumberInput
            key={`w${width}`}
            label="Wide, cm"
            defaultValue={width / 10}
            min={1}
            max={300}
            decimalScale={1}
            onBlur={(e) => size("width")(e.currentTarget.value)}
          />
          <NumberInput
            key={`h${height}`}
            label="High, cm"
            defaultValue={height / 10}
            min={1}
            max={300}
            decimalScale={1}
            onBlur={(e) => size("height")(e.currentTarget.value)}
          />
        </div>
        <NativeSelect
          label="Box"
          value={view.piece.paint_box ?? ""}
          data={[
            ...(view.piece.paint_box ? [] : [{ value: "", label: "none chosen" }]),
            ...boxes.map((b) => ({ value: b.id, label: `${b.name}, ${b.pigments} in it` })),
          ]}
          onChange={(e) =>
            e.currentTarget.value && changes.wish({ do: "use-box", paint_box: e.currentTarget.value }).catch(() => {})
          }
        />
        {boxes.length === 0 && studio.data && (
          <p>There is no Box of {mediumName(brief.medium)} yet. Start one at Box.</p>
        )}
      </div>
      <figure className={styles.panel}>
        <div style={{ width: width * scale, height: height * scale, background: ground?.hex }} />
        <figcaption>
          {width / 10} × {height / 10} cm, the ground as it is before anything lies on it
          {ground && <>. It takes {taken(brief.medium, ground.takes)} (modelled).</>}
        </figcaption>
      </figure>
    </div>
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

function BriefCard() {
  const { view, box } = useBench();
  const navigate = useNavigate();
  const { say } = useNotice();
  const [sure, setSure] = useState(false);
  const remove = async () => {
    try {
      await answer(api.DELETE("/api/pieces/{id}", { params: { path: { id: view.id } } }));
      navigate("/");
      say(`${view.piece.brief.title} was removed.`);
    } catch (e) {
      say(e instanceof Refused ? e.problem.detail : String(e), "problem");
    }
  };
  return (
    <div className={styles.card}>
      <h2>{view.piece.brief.title}</h2>
      <p>Value first, temperature second, hue last: the comparisons of every station keep that order.</p>
      {box?.cautions.map((c) => (
        <p key={c} className={styles.caution}>
          {c}
        </p>
      ))}
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
    </div>
  );
}
