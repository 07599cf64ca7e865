import { NativeSelect, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useReadings } from "../../api/useBox";
import { useBench, useLooking } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Acts, Note } from "../../kit/Section";
import { OnePatch } from "../patches/OnePatch";
import { useStudio } from "../stroke/useGround";
import { ByEye } from "./ByEye";
import { LaidParts } from "./LaidParts";
import { LaidSteps } from "./LaidSteps";
import { Meter } from "./Meter";

/** A trial: what was really laid, and how it looks: by eye first, or as a colour typed in, or read by a meter. */
export function NewTrial({
  of,
  next,
  steps,
  onDone,
}: {
  of: { zone: number } | { cell: number };
  /** What the trial starts from. */
  next: Schemas["Swatch"] | null;
  /** The same in layers that can be changed; empty for a wet mix. */
  steps: Schemas["LaidStep"][];
  onDone: () => void;
}) {
  const { view, box } = useBench();
  const { take } = useReadings(box?.id);
  const { look } = useLooking();
  const { simulates } = useStudio().data ?? {};
  const { medium, ground } = view.piece.brief;
  const [swatch, setSwatch] = useState<Schemas["Swatch"]>(next ?? { ground, parts: [], layers: [] });
  const [laid, setLaid] = useState(steps);
  const [state, setState] = useState<Schemas["Dampness"]>("dry");
  const [typed, setTyped] = useState("");
  if (!box) return null;
  const triedFor = {
    piece: view.id,
    zone: "zone" in of ? of.zone : null,
    cell: "cell" in of ? of.cell : null,
  };
  const keep = (from: Schemas["From"]) =>
    take({ swatch, laid, from, state, tried_for: triedFor }).then((done) => done && onDone());
  const told = medium === "oil" ? swatch.parts.length > 0 : laid.length > 0;
  return (
    <>
      {told && (
        <ByEye
          box={box.id}
          swatch={swatch}
          laid={laid}
          triedFor={triedFor}
          reveal
          ground={view.ground.hex}
          look={look}
          onKeep={keep}
        />
      )}
      <details open={!told}>
        <summary>What was really laid</summary>
        {medium === "oil" ? (
          <LaidParts swatch={swatch} onChange={setSwatch} />
        ) : (
          <LaidSteps steps={laid} onChange={setLaid} />
        )}
        <NativeSelect
          mt={6}
          label="It is"
          value={state}
          data={["dry", "damp", "wet"]}
          onChange={(e) => setState(e.currentTarget.value as Schemas["Dampness"])}
        />
      </details>
      <details>
        <summary>From a photo</summary>
        <OnePatch
          keep="Keep this reading"
          onKeep={({ photo, grey, patch }) => keep({ by: "photo", photo, grey, cell: patch.place })}
        />
      </details>
      <details>
        <summary id="measured">{simulates ? "Read by the meter, or type its colour" : "Type its colour"}</summary>
        {simulates && <Meter box={box.id} swatch={swatch} wet={state === "wet"} onRead={() => keep({ by: "meter" })} />}
        <TextInput
          my={6}
          label="Colour"
          placeholder="dull blue green · #33aa66 · 60 20 -10"
          value={typed}
          onChange={(e) => setTyped(e.currentTarget.value)}
        />
        <Act disabled={!typed.trim()} onDo={() => keep({ by: "typed", text: typed })}>
          Keep this colour
        </Act>
      </details>
      <Acts>
        <Act onDo={onDone}>Leave it</Act>
      </Acts>
      <Note>Trials also teach the pigments: the next recipes are better.</Note>
    </>
  );
}
