import { NativeSelect } from "@mantine/core";
import { useState } from "react";
import type { Schemas, Zone } from "../../api/client";
import { BULGES } from "../../api/words";
import { useBench, useSelection } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Acts, Note, Section } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import styles from "./Subject.module.css";
import type { Tool } from "./tools";

type Spot = Schemas["Spot"];

/** How the next zone is turned; kept while one works. */
export type Turning = { bulge: Schemas["Bulge"] | ""; dark: number; edges: boolean; holdsMean: boolean };

export const USUAL: Turning = { bulge: "", dark: 0.3, edges: true, holdsMean: false };

/** What turns a zone as it was chosen, with a line where the shadow begins or without. */
export function useTurn(how: Turning) {
  const { changes } = useBench();
  return (zone: number, shadow: Spot[] = []) =>
    changes.turn({
      zones: [zone],
      bulge: how.bulge || null,
      dark: how.dark,
      edges: how.edges,
      holds_mean: how.holdsMean,
      shadow,
    });
}

/** The chosen zone turned in the light, and laid flat again. */
export function FormPart({
  zone,
  how,
  onHow,
  tool,
  onTool,
}: {
  zone: Zone;
  how: Turning;
  onHow: (how: Turning) => void;
  tool: Tool | null;
  onTool: (t: Tool | null) => void;
}) {
  const { view, changes } = useBench();
  const { selectZone } = useSelection();
  const turn = useTurn(how);
  const [open, setOpen] = useState(false);
  const { form } = zone;
  const parts = form ? view.piece.zones.filter((z) => z.form?.whole === form.whole) : [];
  const isDrawing = !!view.piece.reference?.lines;
  return (
    <Section title="Form" level={2}>
      {form ? (
        <p>
          It is turned:{" "}
          {parts.map((p, i) => (
            <span key={p.id}>
              {i > 0 && ", "}
              <button type="button" className="plain" aria-pressed={p.id === zone.id} onClick={() => selectZone(p.id)}>
                {p.form?.part}
              </button>
            </span>
          ))}
          .
        </p>
      ) : (
        <Note>Shadow side, middle and light, each with a mix of its own.</Note>
      )}
      <Acts>
        <Act onDo={() => turn(zone.id)}>{form ? "Turn it again" : "Turn it in the light"}</Act>
        {form && <Act onDo={() => changes.layFlat([zone.id])}>Lay it flat again</Act>}
        <Act pressed={open} onDo={() => setOpen(!open)}>
          How
        </Act>
      </Acts>
      {open && (
        <>
          <NativeSelect
            label="It is"
            value={how.bulge}
            data={[
              { value: "", label: isDrawing ? "round" : "as the picture has it" },
              ...BULGES.filter((b) => !isDrawing || b.value !== "round"),
            ]}
            onChange={(e) => onHow({ ...how, bulge: e.currentTarget.value as Turning["bulge"] })}
          />
          <label className={styles.inShadow}>
            <span>
              In shadow <span className="figures">{Math.round(how.dark * 100)} %</span>
            </span>
            <input
              type="range"
              aria-label="Share in shadow"
              min={0.1}
              max={0.7}
              step={0.05}
              value={how.dark}
              onChange={(e) => onHow({ ...how, dark: Number(e.currentTarget.value) })}
            />
          </label>
          <Tick on={how.edges} onTick={(edges) => onHow({ ...how, edges })}>
            rim and highlight, where there is room
          </Tick>
          <Tick on={how.holdsMean} onTick={(holdsMean) => onHow({ ...how, holdsMean })}>
            on the whole the colour it has now
          </Tick>
          <Acts>
            <Act pressed={tool === "shadow"} onDo={() => onTool(tool === "shadow" ? null : "shadow")}>
              Draw where the shadow begins
            </Act>
          </Acts>
        </>
      )}
    </Section>
  );
}
