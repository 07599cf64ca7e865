import { useQuery } from "@tanstack/react-query";
import { answer, api } from "../../api/client";
import { useBench, useLooking, zoneName } from "../../bench/context";
import { NumberField } from "../../kit/DraftFields";
import { Acts, Card, Section } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import { figure } from "../../room/figures";
import { DrawingPart } from "./DrawingPart";
import { LadderStrip } from "./LadderStrip";
import styles from "./Subject.module.css";
import type { Tool } from "./tools";

type Props = {
  tool: Tool | null;
  onTool: (t: Tool | null) => void;
  clipped: boolean;
  onClipped: (on: boolean) => void;
  card: number | null;
  onCard: (value: number | null) => void;
};

/** The whole picture: its values, measuring in it, its shapes and its frame. */
export function WholeCard(props: Props) {
  const { view, work } = useBench();
  const { groups } = useLooking();
  const reference = view.piece.reference;
  const ladder = useQuery({
    queryKey: ["ladder", view.id, reference?.digest, JSON.stringify(reference?.frame), groups],
    queryFn: () =>
      answer(
        api.GET("/api/pieces/{id}/reference/ladder", {
          params: { path: { id: view.id }, query: { groups: groups ?? 5 } },
        }),
      ),
    enabled: !!reference,
  });
  if (!reference) {
    return (
      <Card>
        <h2>{view.derived.shapes.length ? "From a field note" : "No picture yet"}</h2>
        <p>
          {view.derived.shapes.length
            ? "The zones are those of the marks made in the field, with what was judged there. A picture dropped here takes their place."
            : "From a picture come the values, the big shapes and what each should be. Everything after this station follows from them."}
        </p>
      </Card>
    );
  }
  const l = ladder.data;
  const lost = l && Math.max(l.clipped.dark, l.clipped.light);
  return (
    <Card>
      <h2>The whole picture</h2>
      <p>
        {reference.file_name}, <span className="figures">{`${reference.width} × ${reference.height}`}</span>
      </p>
      {reference.lines && <DrawingPart />}
      {l && <LadderStrip ladder={l} />}
      {l && lost !== undefined && lost > 0.0005 && (
        <p className={lost > 0.005 ? styles.clipped : undefined}>
          {lost > 0.005 && (
            <>
              {figure(100 * lost, 1)} % of the picture is clipped {l.clipped.light > l.clipped.dark ? "white" : "black"}
              : values there are estimates.{" "}
            </>
          )}
          <button
            type="button"
            className="act"
            aria-pressed={props.clipped}
            onClick={() => props.onClipped(!props.clipped)}
          >
            {props.clipped ? "Hide clipped areas" : "Show clipped areas"}
          </button>
        </p>
      )}
      <Measuring {...props} />
      <Shapes {...props} />
      <FramePart {...props} />
      <Acts>
        <a href={`/api/pieces/${view.id}/ladder.pdf`} target="_blank" rel="noreferrer">
          Print a ladder to hold against the work
        </a>
      </Acts>
      <label className={styles.another}>
        Another picture
        <input
          id="reference-file"
          type="file"
          accept="image/jpeg,image/png,image/webp,image/tiff"
          onChange={(e) => {
            const file = e.currentTarget.files?.[0];
            if (file) work.takeIn(file);
            e.currentTarget.value = "";
          }}
        />
      </label>
    </Card>
  );
}

function ToolButton({ of, label, tool, onTool }: { of: Tool; label: string } & Pick<Props, "tool" | "onTool">) {
  return (
    <button type="button" className="act" aria-pressed={tool === of} onClick={() => onTool(tool === of ? null : of)}>
      {label}
    </button>
  );
}

/** Measuring, and which zones are equal. */
function Measuring(props: Props) {
  const { view } = useBench();
  const equal = view.equal_values.filter((g) => g.length > 1);
  const ends = view.equal_values;
  return (
    <Section title="Measure">
      <Acts>
        <ToolButton of="line" label="Measure along a line" {...props} />
        <ToolButton of="compare" label="Compare two patches" {...props} />
      </Acts>
      {ends.length > 1 && (
        <p>
          Lightest {ends[0].map((z) => zoneName(view, z)).join(", ")}; darkest{" "}
          {ends[ends.length - 1].map((z) => zoneName(view, z)).join(", ")}.
          {equal.map((g) => (
            <span key={g.join("-")}> Equal in value: {g.map((z) => zoneName(view, z)).join(", ")}.</span>
          ))}
        </p>
      )}
    </Section>
  );
}

/** Shapes joined by drawing; those of a line drawing. */
function Shapes(props: Props) {
  const { view, changes } = useBench();
  const lines = view.piece.reference?.lines;
  return (
    <Section title="Shapes">
      <p>Point at the picture to choose a zone: all its places light up, and it can be mended here.</p>
      <Acts>
        <ToolButton of="take" label="Add this colour" {...props} />
        <ToolButton of="join" label="Merge by drawing" {...props} />
      </Acts>
      <Acts>
        <button type="button" className="act" onClick={() => changes.fromLines(false)}>
          {lines ? "Outlines again" : "It is a line drawing"}
        </button>
        {lines && (
          <button type="button" className="act" onClick={() => changes.fromLines(true)}>
            Make the lines a zone
          </button>
        )}
      </Acts>
    </Section>
  );
}

/** Crop, straighten, fit, and the colour of the light. */
function FramePart(props: Props) {
  const { view, changes } = useBench();
  const reference = view.piece.reference;
  if (!reference) return null;
  const { frame } = reference;
  const set = (change: { straighten?: number; crop?: typeof frame.crop; fit?: boolean }) =>
    changes.frame({ straighten: frame.straighten, crop: frame.crop, fit: false, ...change });
  const size = view.piece.brief.size;
  const off = Math.abs(reference.width / reference.height / (size.width / size.height) - 1) > 0.01;
  return (
    <Section title="Frame and light">
      <Acts>
        <ToolButton of="crop" label="crop" {...props} />
        {off && (
          <button type="button" className="act" onClick={() => set({ fit: true })}>
            fit to {size.width / 10} × {size.height / 10}
          </button>
        )}
        {(frame.crop || frame.straighten !== 0) && (
          <button type="button" className="act" onClick={() => set({ crop: null, straighten: 0 })}>
            whole again
          </button>
        )}
      </Acts>
      <NumberField
        label="Straighten, degrees clockwise"
        kept={frame.straighten}
        min={-45}
        max={45}
        step={0.1}
        decimalScale={1}
        onKeep={(straighten) => straighten !== null && set({ straighten })}
      />
      <Acts>
        <ToolButton of="neutral" label={props.card ? "pick the grey card" : "pick a neutral"} {...props} />
        {frame.gains && (
          <button type="button" className="act" onClick={() => changes.neutral(null, null)}>
            its own light again
          </button>
        )}
      </Acts>
      <div className={styles.check}>
        <Tick on={props.card !== null} onTick={(on) => props.onCard(on ? 5 : null)}>
          it is a grey card of value
        </Tick>
        <input
          type="number"
          aria-label="Value of the grey card"
          className={styles.small}
          min={1}
          max={9.5}
          step={0.1}
          disabled={props.card === null}
          value={props.card ?? 5}
          onChange={(e) => props.onCard(Number(e.currentTarget.value))}
        />
      </div>
    </Section>
  );
}
