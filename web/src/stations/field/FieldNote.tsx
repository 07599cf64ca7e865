import { NativeSelect, TextInput } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { answer, api, Refused, type Schemas } from "../../api/client";
import { SIDES } from "../../api/words";
import { useNotice } from "../../bench/notice";
import { media } from "../../bench/stations";
import { useStudio } from "../../lenses/stroke/useGround";
import { figure } from "../../room/figures";
import { isAtHome } from "../device/isAtHome";
import styles from "./Field.module.css";
import { notesKey } from "./notes";

type Note = Schemas["FieldNote"];
type Mark = Schemas["FieldMark"];
type Place = Schemas["Spot"];

/** One note: a photo or an outline, marks with a few words, and what brings the moment back. */
export function FieldNote() {
  const id = Number(useParams().id);
  const queries = useQueryClient();
  const { tell } = useNotice();
  const key = [...notesKey, id];
  const kept = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET("/api/field-notes/{id}", { params: { path: { id } } })),
    retry: false,
  });
  const [chosen, setChosen] = useState<number | null>(null);
  const [drawing, setDrawing] = useState(false);
  const sending = useRef(Promise.resolve());
  if (kept.isError) {
    return (
      <main className={styles.field}>
        <p role="alert">{kept.error instanceof Refused ? kept.error.problem.detail : "The server does not answer."}</p>
        <Link to="/field">All notes</Link>
      </main>
    );
  }
  const note = kept.data?.note;
  if (!note) return <main className={styles.field} aria-busy="true" />;
  const send = async (change: Partial<Note>) => {
    const before = queries.getQueryData<Schemas["NoteView"]>(key) ?? kept.data;
    if (!before) return;
    const next = { ...before.note, ...change };
    // The note shows at once what was done in the field; a refusal puts it back.
    queries.setQueryData(key, { ...before, note: next });
    try {
      const query = { base_revision: before.revision };
      const now = await answer(api.PUT("/api/field-notes/{id}", { params: { path: { id }, query }, body: next }));
      queries.setQueryData(key, now);
      queries.invalidateQueries({ queryKey: notesKey, exact: true });
    } catch (e) {
      queries.setQueryData(key, before);
      queries.invalidateQueries({ queryKey: key, exact: true });
      tell(e);
    }
  };
  // One change after the other: each is written over what the one before it left.
  const set = (change: Partial<Note>) => {
    sending.current = sending.current.then(() => send(change));
    return sending.current;
  };
  const setMark = (i: number, change: Partial<Mark>) =>
    set({ marks: note.marks.map((m, n) => (n === i ? { ...m, ...change } : m)) });
  const photo = async (file: File) => {
    try {
      const response = await fetch("/api/field-notes/photo", {
        method: "POST",
        body: file,
        headers: { "content-type": "application/octet-stream" },
      });
      const body = await response.json();
      if (!response.ok) throw new Refused(body);
      await set({ photo: body.digest, proportion: body.proportion, file_name: file.name.slice(-80), outline: [] });
    } catch (e) {
      tell(e);
    }
  };
  return (
    <main className={styles.field}>
      <header>
        <h1>Field note</h1>
        <Link to="/field">all notes</Link>
      </header>
      <Thumbnail
        note={note}
        chosen={chosen}
        drawing={drawing}
        onLine={(line) => set({ outline: [...note.outline, line] })}
        onPlace={(place) => {
          setChosen(note.marks.length);
          set({ marks: [...note.marks, { place, word: "", value: null, side: null, pigment: "" }] });
        }}
        onChoose={setChosen}
      />
      <div className={styles.acts}>
        <label className={styles.file}>
          {note.photo ? "another photo" : "a photo"}
          <input
            id="note-photo"
            type="file"
            accept="image/*"
            capture="environment"
            onChange={(e) => e.currentTarget.files?.[0] && photo(e.currentTarget.files[0])}
          />
        </label>
        <button type="button" className="act" aria-pressed={drawing} onClick={() => setDrawing(!drawing)}>
          {drawing ? "place marks again" : "draw an outline"}
        </button>
        {note.outline.length > 0 && (
          <button type="button" className="act" onClick={() => set({ outline: note.outline.slice(0, -1) })}>
            last line away
          </button>
        )}
        {!note.photo && (
          <button type="button" className="act" onClick={() => set({ proportion: 1 / note.proportion })}>
            turn the frame
          </button>
        )}
      </div>
      {chosen !== null && note.marks[chosen] ? (
        <MarkFields
          key={chosen}
          number={chosen + 1}
          mark={note.marks[chosen]}
          said={kept.data?.said[chosen]}
          onChange={(change) => setMark(chosen, change)}
          onRemove={() => {
            set({ marks: note.marks.filter((_, n) => n !== chosen) });
            setChosen(null);
          }}
        />
      ) : (
        <p>{drawing ? "Draw the big shapes with a finger." : "Touch a place to put a mark there."}</p>
      )}
      <Moment note={note} onChange={set} />
      {isAtHome() && <Become id={id} ready={note.marks.length > 0 || !!note.photo} />}
    </main>
  );
}

function Thumbnail({
  note,
  chosen,
  drawing,
  onLine,
  onPlace,
  onChoose,
}: {
  note: Note;
  chosen: number | null;
  drawing: boolean;
  onLine: (line: Place[]) => void;
  onPlace: (p: Place) => void;
  onChoose: (i: number) => void;
}) {
  const frame = useRef<SVGSVGElement>(null);
  const [line, setLine] = useState<Place[] | null>(null);
  const [w, h] = note.proportion >= 1 ? [400, 400 / note.proportion] : [400 * note.proportion, 400];
  const place = (e: React.PointerEvent): Place => {
    const r = frame.current?.getBoundingClientRect();
    const share = (at: number, from = 0, size = 1) => Math.min(1, Math.max(0, (at - from) / size));
    return { x: share(e.clientX, r?.left, r?.width), y: share(e.clientY, r?.top, r?.height) };
  };
  const points = (l: Place[]) => l.map((p) => `${p.x * w},${p.y * h}`).join(" ");
  return (
    <svg
      ref={frame}
      viewBox={`0 0 ${w} ${h}`}
      className={styles.thumbnail}
      role="group"
      aria-label="The place"
      style={{ aspectRatio: `${w} / ${h}` }}
      onPointerDown={(e) => {
        if (!drawing) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        setLine([place(e)]);
      }}
      onPointerMove={(e) => line && setLine([...line, place(e)])}
      onPointerUp={(e) => {
        if (line) {
          if (line.length > 1) onLine(line);
          setLine(null);
        } else if (!drawing) onPlace(place(e));
      }}
    >
      {note.photo && <image href={`/api/field-notes/photo/${note.photo}`} width={w} height={h} />}
      {[...note.outline, ...(line ? [line] : [])].map((l, i) => (
        <polyline key={i} points={points(l)} className={styles.line} />
      ))}
      {note.marks.map((m, i) => (
        <g
          key={i}
          role="button"
          tabIndex={0}
          aria-label={`Mark ${i + 1}, ${m.word || "no word yet"}`}
          aria-pressed={chosen === i}
          className={styles.mark}
          transform={`translate(${m.place.x * w} ${m.place.y * h})`}
          onPointerUp={(e) => {
            if (drawing) return;
            e.stopPropagation();
            onChoose(i);
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter" || e.key === " ") {
              e.preventDefault();
              onChoose(i);
            }
          }}
        >
          <circle r={13} />
          <text y={4.5} textAnchor="middle">
            {i + 1}
          </text>
        </g>
      ))}
    </svg>
  );
}

function MarkFields({
  number,
  mark,
  said,
  onChange,
  onRemove,
}: {
  number: number;
  mark: Mark;
  said?: Schemas["SaidView"] | null;
  onChange: (m: Partial<Mark>) => void;
  onRemove: () => void;
}) {
  return (
    <section className={styles.fields} aria-label={`Mark ${number}`}>
      <TextInput
        label={`${number}: colour word`}
        placeholder="dull red, pale, like slate"
        defaultValue={mark.word}
        maxLength={60}
        onBlur={(e) => e.currentTarget.value !== mark.word && onChange({ word: e.currentTarget.value })}
      />
      <label className={styles.slider}>
        <span>
          value <b className="figures">{mark.value == null ? "not said" : figure(mark.value, 1)}</b>
        </span>
        <input
          type="range"
          aria-label="Value"
          min={0}
          max={10}
          step={0.5}
          value={mark.value ?? 5}
          onChange={(e) => onChange({ value: Number(e.currentTarget.value) })}
        />
      </label>
      <div className={styles.acts} role="group" aria-label="Warm or cool">
        {SIDES.map((s) => (
          <button
            key={s.value}
            type="button"
            className={`act${mark.side === s.value ? " main" : ""}`}
            aria-pressed={mark.side === s.value}
            onClick={() => onChange({ side: mark.side === s.value ? null : s.value })}
          >
            {s.label}
          </button>
        ))}
      </div>
      <TextInput
        label="Pigment, as a guess"
        defaultValue={mark.pigment}
        maxLength={60}
        onBlur={(e) => e.currentTarget.value !== mark.pigment && onChange({ pigment: e.currentTarget.value })}
      />
      <Said said={said} words={mark.word} />
      <button type="button" className="act" onClick={onRemove}>
        take this mark away
      </button>
    </section>
  );
}

/** The colour the words of a mark are read as. */
function Said({ said, words }: { said?: Schemas["SaidView"] | null; words: string }) {
  if (said) {
    const { r, g, b } = said.screen;
    return (
      <p className={styles.said}>
        <i style={{ background: `rgb(${r} ${g} ${b})` }} />
        In words: value {figure(said.value, 1)}, give or take {figure(said.give_or_take, 1)}.
      </p>
    );
  }
  return words.trim() ? <p>No word here names a colour; it stays as the name of the place.</p> : null;
}

/** When it was, in what light and weather, and a line of words. */
function Moment({ note, onChange }: { note: Note; onChange: (n: Partial<Note>) => void }) {
  const text = (label: string, field: "words" | "light" | "weather", placeholder: string, most: number) => (
    <TextInput
      label={label}
      placeholder={placeholder}
      defaultValue={note[field]}
      maxLength={most}
      onBlur={(e) => e.currentTarget.value !== note[field] && onChange({ [field]: e.currentTarget.value })}
    />
  );
  return (
    <section className={styles.fields} aria-label="The moment">
      {text("A line that brings it back", "words", "gulls on the lock gate, smell of tar", 300)}
      <div className={styles.two}>
        {text("Light", "light", "low, warm, from the left", 80)}
        {text("Weather", "weather", "frost, no wind", 80)}
      </div>
      <TextInput
        type="datetime-local"
        label="When"
        defaultValue={note.at}
        onBlur={(e) =>
          e.currentTarget.value && e.currentTarget.value !== note.at && onChange({ at: e.currentTarget.value })
        }
      />
    </section>
  );
}

/** Back in the studio: the note becomes a piece. */
function Become({ id, ready }: { id: number; ready: boolean }) {
  const [medium, setMedium] = useState<Schemas["Medium"]>("soft-pastel");
  const ground = useStudio().data?.grounds.find((g) => g.suits.includes(medium))?.id;
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotice();
  const make = async () => {
    try {
      const brief = { title: "note", medium, ground: ground ?? "", size: { width: 300, height: 300 } };
      const piece = await answer(
        api.POST("/api/field-notes/{id}/piece", { params: { path: { id } }, body: { brief } }),
      );
      queries.invalidateQueries({ queryKey: ["studio"] });
      navigate(`/pieces/${piece.id}/subject`);
    } catch (e) {
      tell(e);
    }
  };
  return (
    <section className={styles.become} aria-label="Make a piece of it">
      <NativeSelect
        label="A piece in"
        value={medium}
        data={media}
        onChange={(e) => setMedium(e.currentTarget.value as Schemas["Medium"])}
      />
      <button type="button" className="act main" disabled={!ready || !ground} onClick={make}>
        Make a piece of it
      </button>
    </section>
  );
}
