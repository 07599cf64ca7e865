import { FileButton, NativeSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type BoxView, type Schemas } from "../../api/client";
import { useReadings } from "../../api/useBox";
import { useSelection } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Acts, Card, Note, Section } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import { OnePatch } from "../../lenses/patches/OnePatch";
import { useGround, useStudio } from "../../lenses/stroke/useGround";
import { ByEye } from "../../lenses/trial/ByEye";
import { Meter } from "../../lenses/trial/Meter";
import { said } from "../../room/figures";
import { CardSection } from "./CardSection";

/** What lies under the head, and how it is read. */
export function ReadCard({ box }: { box: BoxView }) {
  const { pigment, selectPigment } = useSelection();
  const { data, take, takeFile } = useReadings(box.id);
  const { simulates } = useStudio().data ?? {};
  const [chosen, setChosen] = useState<{ pigment: string; nth: number }>({ pigment: "", nth: 0 });
  const [state, setState] = useState<Schemas["Dampness"]>("dry");
  const [sealed, setSealed] = useState(false);
  const [typed, setTyped] = useState("");
  const ground = useGround();
  const of = pigment && box.pigments.some((p) => p.id === pigment) ? pigment : (box.pigments[0]?.id ?? "");
  const swatches = useQuery({
    queryKey: ["swatches", box.id, of, box.pigments.length],
    queryFn: () =>
      answer(api.GET("/api/boxes/{id}/swatches", { params: { path: { id: box.id }, query: { pigment: of } } })),
    enabled: !!of,
  });
  const nth = chosen.pigment === of ? chosen.nth : 0;
  const swatch = swatches.data?.[nth]?.swatch ?? null;
  const read = (from: Schemas["From"]) => (swatch ? take({ swatch, from, state, sealed }) : Promise.resolve(null));
  return (
    <Card>
      <h2>Read a swatch</h2>
      <NativeSelect
        label="Of which pigment"
        value={of}
        data={box.pigments.map((p) => ({ value: p.id, label: p.name }))}
        onChange={(e) => selectPigment(e.currentTarget.value)}
      />
      <NativeSelect
        label="What is laid"
        value={String(nth)}
        data={(swatches.data ?? []).map((s, i) => ({ value: String(i), label: s.words }))}
        onChange={(e) => setChosen({ pigment: of, nth: Number(e.currentTarget.value) })}
      />
      <NativeSelect
        label="It is"
        value={state}
        data={["dry", "damp", "wet"]}
        onChange={(e) => setState(e.currentTarget.value as Schemas["Dampness"])}
      />
      <Tick on={sealed} onTick={setSealed}>
        fixed or varnished: kept, and teaches nothing of the bare pigment
      </Tick>
      {swatch && (
        <Section title="By eye">
          <ByEye box={box.id} swatch={swatch} ground={ground} onKeep={read} />
        </Section>
      )}
      {simulates && <Meter box={box.id} swatch={swatch} wet={state === "wet"} onRead={() => read({ by: "meter" })} />}
      {swatch && (
        <details>
          <summary>From a photo of the swatch</summary>
          <OnePatch
            keep="Keep this reading"
            onKeep={({ photo, grey, patch }) => read({ by: "photo", photo, grey, cell: patch.place })}
          />
        </details>
      )}
      <Section title="Or a colour typed in">
        <TextInput
          aria-label="Colour read"
          placeholder="dull blue green · #33aa66 · 60 20 -10"
          value={typed}
          onChange={(e) => setTyped(e.currentTarget.value)}
        />
        <Act
          disabled={!typed.trim() || !swatch}
          onDo={() => read({ by: "typed", text: typed }).then((done) => done && setTyped(""))}
        >
          Keep this colour
        </Act>
        <Note>A typed colour is trusted less than a measurement, and words less than numbers.</Note>
      </Section>
      <CardSection box={box} />
      <Section title="Files">
        <Acts>
          <a href={`/api/boxes/${encodeURIComponent(box.id)}/readings/file`} download="readings.csv">
            Save as CSV
          </a>
          <a href={`/api/boxes/${encodeURIComponent(box.id)}/readings/file?kind=iso`} download="readings.txt">
            Save as ISO 28178
          </a>
          <FileButton onChange={(f) => f && takeFile(f)} accept=".csv,.txt,text/*">
            {(props) => (
              <button type="button" className="act" {...props}>
                Take a file in
              </button>
            )}
          </FileButton>
        </Acts>
      </Section>
      {data && data.teaches.length > 0 && (
        <Section title="What one more reading would teach">
          <ul style={{ listStyle: "none", margin: 0, padding: 0, display: "grid", gap: 6 }}>
            {data.teaches.slice(0, 4).map((t) => (
              <li key={t.pigment}>
                <button type="button" className="plain" onClick={() => selectPigment(t.pigment)}>
                  {said(t.words)}
                </button>
              </li>
            ))}
          </ul>
        </Section>
      )}
    </Card>
  );
}
