import { NativeSelect, NumberInput, TextInput } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { answer, api, type Schemas } from "../../api/client";
import { useSeen } from "../../api/useSeen";
import { useBench } from "../../bench/context";
import { useNotice } from "../../bench/notice";
import { Act } from "../../kit/Act";
import { Elsewhere } from "../../kit/Elsewhere";
import { Acts, Card, Facts, Section } from "../../kit/Section";
import { OnePatch } from "../../lenses/patches/OnePatch";
import { useStudio } from "../../lenses/stroke/useGround";
import styles from "./BoxStation.module.css";

type Line = Schemas["GroundLine"];

function useGrounds() {
  const queries = useQueryClient();
  const { tell } = useNotice();
  const grounds = useQuery({ queryKey: ["grounds"], queryFn: () => answer(api.GET("/api/grounds")) });
  const change = async (call: () => Promise<Line[]>) => {
    try {
      const now = await call();
      queries.setQueryData(["grounds"], now);
      queries.invalidateQueries({ queryKey: ["studio"] });
      return now;
    } catch (e) {
      tell(e);
      queries.invalidateQueries({ queryKey: ["grounds"] });
      return null;
    }
  };
  return { grounds: grounds.data ?? [], change };
}

/** Which ground of one's own is looked at, kept in the address. */
function useChosen(): [Line | null, (number: number | null) => void] {
  const { grounds } = useGrounds();
  const [search, setSearch] = useSearchParams();
  const choose = (number: number | null) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (number === null) next.delete("ground");
        else next.set("ground", String(number));
        return next;
      },
      { replace: true },
    );
  return [grounds.find((g) => String(g.number) === search.get("ground")) ?? null, choose];
}

/** The grounds one owns, each as a sheet of its colour. */
export function GroundsRoom() {
  const { grounds } = useGrounds();
  const [chosen, choose] = useChosen();
  if (!grounds.length) {
    return (
      <p className={styles.empty}>
        No ground of your own yet. Keep one: its colour, how it drinks, how long it stays wet, how many layers it takes.
        Pieces and readings can then lie on it.
      </p>
    );
  }
  return (
    <ul className={styles.grounds}>
      {grounds.map((g) => (
        <li key={g.number}>
          <button
            type="button"
            className="plain"
            aria-pressed={chosen?.number === g.number}
            onClick={() => choose(chosen?.number === g.number ? null : g.number)}
          >
            <i style={{ background: g.ground.hex }} />
            <b>{g.record.ground.name}</b>
            <span className={styles.small}>
              {g.record.ground.layers} layers, wet for {g.record.ground.dry_minutes} min
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** One ground of one's own, or a new one. */
export function GroundCard() {
  const [chosen, choose] = useChosen();
  return <GroundForm key={chosen?.number ?? "new"} line={chosen} onDone={choose} />;
}

function GroundForm({ line, onDone }: { line: Line | null; onDone: (number: number | null) => void }) {
  const { view, changes } = useBench();
  const { change } = useGrounds();
  const shipped = (useStudio().data?.grounds ?? []).filter((g) => !g.id.startsWith("own:"));
  const like = shipped.find((g) => g.id === view.piece.brief.ground) ?? shipped[0];
  const { seen, took, elsewhere } = useSeen(line?.version ?? "");
  const [record, setRecord] = useState<Schemas["GroundRecord"] | null>(line?.record ?? null);
  const [colour, setColour] = useState("");
  const [what, setWhat] = useState("");
  const [result, setResult] = useState("");
  const { tell } = useNotice();
  if (!like) return null;
  const now: Schemas["GroundRecord"] = record ?? {
    ground: {
      like: like.id,
      name: "",
      lab: like.lab,
      tooth: like.tooth,
      absorbency: like.absorbency,
      layers: Math.max(1, ...Object.values(like.takes)),
      dry_minutes: like.dry_minutes,
    },
    lifts_minutes: null,
    side: "",
    opaque_holds: null,
    rehearsals: [],
  };
  const ground = (to: Partial<Schemas["OwnGround"]>) => setRecord({ ...now, ground: { ...now.ground, ...to } });
  const keep = async (next: Schemas["GroundRecord"]) => {
    const params = { path: { number: line?.number ?? 0 }, query: { seen } };
    const all = await change(() =>
      line
        ? answer(api.PUT("/api/grounds/{number}", { params, body: next }))
        : answer(api.POST("/api/grounds", { body: next })),
    );
    if (all && line) took(all.find((g) => g.number === line.number)?.version ?? seen);
    if (all && !line) onDone(all[all.length - 1].number);
  };
  const typed = async () => {
    if (!colour.trim()) return;
    try {
      const read = await answer(api.GET("/api/colour", { params: { query: { text: colour } } }));
      ground({ lab: read.lab });
    } catch (e) {
      tell(e);
    }
  };
  const use = () =>
    line && changes.request({ do: "set-brief", brief: { ...view.piece.brief, ground: line.ground.id } });
  return (
    <Card>
      <h2>{line ? line.record.ground.name : "A ground of your own"}</h2>
      {line && (
        <Acts>
          <Act main onDo={use} pressed={view.piece.brief.ground === line.ground.id}>
            {view.piece.brief.ground === line.ground.id ? "This piece lies on it" : "Lay this piece on it"}
          </Act>
          <Act onDo={() => onDone(null)}>A new one</Act>
        </Acts>
      )}
      {line && elsewhere && (
        <Elsewhere
          what="ground"
          onTake={() => {
            took(line.version);
            setRecord(line.record);
          }}
        />
      )}
      <TextInput
        label="Name"
        value={now.ground.name}
        maxLength={60}
        onChange={(e) => ground({ name: e.currentTarget.value })}
      />
      <NativeSelect
        label="Similar to"
        value={now.ground.like}
        data={shipped.map((g) => ({ value: g.id, label: g.name }))}
        onChange={(e) => ground({ like: e.currentTarget.value })}
      />
      <TextInput
        label="Colour: words, #hex or L a b"
        placeholder={`${now.ground.lab.l.toFixed(0)} ${now.ground.lab.a.toFixed(0)} ${now.ground.lab.b.toFixed(0)}`}
        value={colour}
        onChange={(e) => setColour(e.currentTarget.value)}
        onBlur={typed}
        onKeyDown={(e) => e.key === "Enter" && typed()}
      />
      <details>
        <summary>Or from a photo of the bare sheet with a grey card</summary>
        <OnePatch keep="Take this colour" onKeep={({ patch }) => ground({ lab: patch.lab })} />
      </details>
      <NumberInput
        label="Tooth, % (0 glass-smooth)"
        min={0}
        max={100}
        value={Math.round(now.ground.tooth * 100)}
        onChange={(v) => ground({ tooth: (Number(v) || 0) / 100 })}
      />
      <NumberInput
        label="Absorbency, %"
        min={0}
        max={100}
        value={Math.round(now.ground.absorbency * 100)}
        onChange={(v) => ground({ absorbency: (Number(v) || 0) / 100 })}
      />
      <NumberInput
        label="Layers it takes"
        min={1}
        max={40}
        value={now.ground.layers}
        onChange={(v) => ground({ layers: Number(v) || 1 })}
      />
      <NumberInput
        label="Minutes a wash stays wet"
        min={0}
        max={600}
        value={now.ground.dry_minutes}
        onChange={(v) => ground({ dry_minutes: Number(v) || 0 })}
      />
      <NumberInput
        label="Minutes until which paint lifts"
        min={0}
        max={100000}
        value={now.lifts_minutes ?? ""}
        onChange={(v) => setRecord({ ...now, lifts_minutes: v === "" ? null : Number(v) })}
      />
      <TextInput
        label="Which side is worked on"
        value={now.side}
        maxLength={300}
        onChange={(e) => setRecord({ ...now, side: e.currentTarget.value })}
      />
      <Acts>
        <Act main={!line} onDo={() => keep(now)} disabled={!now.ground.name.trim()}>
          {line ? "Keep this" : "Keep this ground"}
        </Act>
        {line && (
          <Act
            onDo={() => {
              const path = { number: line.number };
              change(() => answer(api.DELETE("/api/grounds/{number}", { params: { path } }))).then(() => onDone(null));
            }}
          >
            Remove it
          </Act>
        )}
      </Acts>
      {line && (
        <Section title="Rehearsals on an offcut">
          <Facts of={now.rehearsals.map((r) => [r.what, r.result])} />
          <TextInput label="What" value={what} maxLength={300} onChange={(e) => setWhat(e.currentTarget.value)} />
          <TextInput
            label="How it went"
            value={result}
            maxLength={300}
            onChange={(e) => setResult(e.currentTarget.value)}
          />
          <Act
            disabled={!what.trim() || !result.trim()}
            onDo={() => {
              const next = { ...now, rehearsals: [...now.rehearsals, { what: what.trim(), result: result.trim() }] };
              setRecord(next);
              keep(next).then(() => {
                setWhat("");
                setResult("");
              });
            }}
          >
            Keep the rehearsal
          </Act>
        </Section>
      )}
    </Card>
  );
}
