import { NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { answer, api, type Zone } from "../../api/client";
import { useMap } from "../../api/useMap";
import { IMPORTANCE } from "../../api/words";
import type { Spot } from "../../bench/context";
import {
  capital,
  signed,
  temperatureWord,
  useBench,
  useLooking,
  useSelection,
  useTargets,
  zoneName,
} from "../../bench/context";
import { FindingNote } from "../../bench/Findings";
import { TextField } from "../../kit/DraftFields";
import { Acts, Card } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import { Give } from "../../lenses/give/Give";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { figure } from "../../room/figures";
import { FormPart, type Turning } from "./FormPart";
import { PlacePart } from "./PlacePart";
import styles from "./Subject.module.css";
import type { Tool } from "./tools";

/** The selected zone: what it reads, what it should be, and how its shape can be mended. */
export function ZoneCard({
  tool,
  onTool,
  onEqual,
  turning,
  onTurning,
}: {
  tool: Tool | null;
  onTool: (t: Tool | null) => void;
  onEqual: (value: number) => void;
  turning: Turning;
  onTurning: (how: Turning) => void;
}) {
  const bench = useBench();
  const selection = useSelection();
  const looking = useLooking();
  const targets = useTargets();
  const { view, changes } = bench;
  const ground = useGround();
  const zone = view.piece.zones.find((z) => z.id === selection.zone);
  const shape = view.derived.shapes.find((s) => s.zone === selection.zone);
  const target = zone && targets(zone.id);
  if (!zone || !shape || !target) return null;
  const moved =
    Math.abs(target.value - shape.reading.value) > 0.04 ||
    Math.abs(target.temperature - shape.reading.temperature) > 0.5;
  return (
    <Card>
      <ZoneName key={`${zone.id}-${zone.name}`} zone={zone} />
      <Stroke
        marks={[shape.reading, target]}
        ground={ground}
        height={74}
        look={looking.look}
        label="Read in the picture, and planned"
      />
      <div className={styles.under}>
        <span>read</span>
        <span>planned</span>
      </div>
      <dl className={styles.readings}>
        <dt>value</dt>
        <dd className="figures">
          {figure(shape.reading.value, 1)} <i>to</i> {figure(target.value, 1)}
        </dd>
        <dt>temperature</dt>
        <dd>
          {temperatureWord(target.temperature)} <span className="figures">{signed(target.temperature, 0)}</span>
        </dd>
        <dt>chroma</dt>
        <dd className="figures">{figure(Math.hypot(target.lab.a, target.lab.b), 0)}</dd>
        <dt>area</dt>
        <dd className="figures">{figure(zone.reading.area * 100, 0)} %</dd>
      </dl>
      {moved && (
        <button
          type="button"
          className="act"
          onClick={() => changes.request({ do: "set-target", zone: zone.id, target: zone.reading.lab })}
        >
          Reset to the measured value
        </button>
      )}
      <fieldset className={styles.choice}>
        <legend>Importance</legend>
        {IMPORTANCE.map((i) => (
          <label key={i.value}>
            <input
              type="radio"
              name="importance"
              checked={zone.importance === i.value}
              onChange={() => changes.request({ do: "set-importance", zone: zone.id, importance: i.value })}
            />
            {i.label}
          </label>
        ))}
      </fieldset>
      {view.piece.reference && <FormPart zone={zone} how={turning} onHow={onTurning} tool={tool} onTool={onTool} />}
      {view.piece.reference && <PlacePart zone={zone} />}
      <Mend zone={zone} tool={tool} onTool={onTool} />
      <ZoneMeasure zone={zone} onEqual={onEqual} />
      {view.derived.findings
        .filter((f) => f.zones.includes(zone.id))
        .map((f) => (
          <FindingNote key={f.key} finding={f} />
        ))}
    </Card>
  );
}

function ZoneName({ zone }: { zone: Zone }) {
  const { changes } = useBench();
  return (
    <form
      className={styles.name}
      onSubmit={(e) => {
        e.preventDefault();
        (document.activeElement as HTMLElement | null)?.blur();
      }}
    >
      <span className="figures">{zone.id}</span>
      <TextField
        aria-label={`Name of zone ${zone.id}`}
        placeholder={`zone ${zone.id}: give it a name`}
        kept={zone.name}
        maxLength={80}
        onKeep={(name) => changes.request({ do: "rename-zone", zone: zone.id, name })}
        variant="unstyled"
        classNames={{ input: styles.nameInput }}
      />
    </form>
  );
}

/** Join with a neighbour, or part by a line: drawn, or straight through the middle for the keyboard. */
function Mend({ zone, tool, onTool }: { zone: Zone; tool: Tool | null; onTool: (t: Tool | null) => void }) {
  const bench = useBench();
  const { view, changes } = bench;
  const beside = view.derived.borders.filter((b) => b.includes(zone.id)).map((b) => (b[0] === zone.id ? b[1] : b[0]));
  const far = view.piece.zones.map((z) => z.id).filter((z) => z !== zone.id && !beside.includes(z));
  const cutting = tool === "part";
  const choice = (n: number) => ({ value: String(n), label: `${n} ${capital(zoneName(view, n))}` });
  const shapes = useMap(view.derived.map);
  const largest = shapes.of.get(zone.id)?.largest;
  const through = (upright: boolean) => {
    if (!largest) return;
    const [x, y] = [largest.x / shapes.width, largest.y / shapes.height];
    const ends: [Spot, Spot] = upright
      ? [
          { x, y: 0 },
          { x, y: 1 },
        ]
      : [
          { x: 0, y },
          { x: 1, y },
        ];
    onTool(null);
    changes.split(zone.id, ends);
  };
  return (
    <div className={styles.mend}>
      {view.piece.zones.length > 1 && (
        <NativeSelect
          label="Join with"
          value=""
          data={[
            { value: "", label: "a neighbour, or a far piece" },
            { group: "beside it", items: beside.map(choice) },
            { group: "farther off", items: far.map(choice) },
          ]}
          onChange={(e) => e.currentTarget.value && changes.merge(Number(e.currentTarget.value), zone.id)}
        />
      )}
      <Acts>
        <button type="button" className="act" aria-pressed={cutting} onClick={() => onTool(cutting ? null : "part")}>
          {cutting ? "Leave it whole" : "Part by a line"}
        </button>
        {!cutting && (
          <button
            type="button"
            className="act"
            aria-pressed={tool === "redraw"}
            onClick={() => onTool(tool === "redraw" ? null : "redraw")}
          >
            {tool === "redraw" ? "Leave its border" : "Redraw its border"}
          </button>
        )}
        {cutting && (
          <>
            <button type="button" className="act" onClick={() => through(true)}>
              upright
            </button>
            <button type="button" className="act" onClick={() => through(false)}>
              level
            </button>
          </>
        )}
      </Acts>
    </div>
  );
}

/** The spread of values inside the zone, where the same value is found, and its lock. */
function ZoneMeasure({ zone, onEqual }: { zone: Zone; onEqual: (value: number) => void }) {
  const { view, changes } = useBench();
  const spread = useQuery({
    queryKey: ["spread", view.id, view.revision, zone.id],
    queryFn: () =>
      answer(
        api.GET("/api/pieces/{id}/reference/spread", { params: { path: { id: view.id }, query: { zone: zone.id } } }),
      ),
    enabled: !!view.piece.reference,
  });
  return (
    <div className={styles.mend}>
      {spread.data && (
        <p>
          Inside it runs from <span className="figures">{figure(spread.data.darkest, 1)}</span> to{" "}
          <span className="figures">{figure(spread.data.lightest, 1)}</span>.
        </p>
      )}
      <Acts>
        {view.piece.reference && (
          <button type="button" className="act" onClick={() => onEqual(Math.round(zone.reading.value * 10) / 10)}>
            What is equal
          </button>
        )}
        <Tick on={zone.kept} onTick={(kept) => changes.request({ do: "keep-zone", zone: zone.id, kept })}>
          locked
        </Tick>
      </Acts>
    </div>
  );
}

/** A patch alone on grey: a colour is not what it seems beside its neighbours. */
export function PatchCard({ at, onEqual }: { at: Spot; onEqual: (value: number) => void }) {
  const { view } = useBench();
  const { look } = useLooking();
  const patch = useQuery({
    queryKey: ["patch", view.id, view.piece.reference?.digest, at.x, at.y],
    queryFn: () =>
      answer(
        api.GET("/api/pieces/{id}/reference/patch", {
          params: { path: { id: view.id }, query: { x: at.x, y: at.y, radius: 0.018 } },
        }),
      ),
  });
  const m = patch.data;
  return (
    <Card>
      <h2>A patch alone</h2>
      {m && (
        <>
          <Stroke marks={[m]} ground="#868686" height={110} look={look} label="The patch on grey" />
          <p>The colour isolated from its neighbours.</p>
          <dl className={styles.readings}>
            <dt>value</dt>
            <dd className="figures">{figure(m.value, 1)}</dd>
            <dt>temperature</dt>
            <dd>
              {temperatureWord(m.temperature)} <span className="figures">{signed(m.temperature, 0)}</span>
            </dd>
            <dt>chroma</dt>
            <dd className="figures">{figure(Math.hypot(m.lab.a, m.lab.b), 0)}</dd>
          </dl>
          <button type="button" className="act" onClick={() => onEqual(Math.round(m.value * 10) / 10)}>
            What is equal
          </button>
          <Give lab={m.lab} />
        </>
      )}
    </Card>
  );
}
