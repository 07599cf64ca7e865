import { Textarea, TextInput } from "@mantine/core";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { answer, api, type Schemas } from "../../api/client";
import { useBench } from "../../bench/context";
import { useNotice } from "../../bench/notice";
import { mediumName, unit } from "../../bench/stations";
import { Act } from "../../kit/Act";
import { Acts, Note, Section } from "../../kit/Section";
import styles from "./BoxStation.module.css";
import { ListField } from "./ListField";

const SIZES = [6, 12, 24, 60];

/** Starts a Box of the piece's medium and draws on it. */
function useStartBox() {
  const { view, changes } = useBench();
  const { tell } = useNotice();
  const { medium } = view.piece.brief;
  return async (fill: Partial<Schemas["NewBox"]>, name: string) => {
    try {
      const made = await answer(api.POST("/api/boxes", { body: { name, medium, ...fill } }));
      await changes.request({ do: "use-box", paint_box: made.id });
    } catch (e) {
      tell(e);
    }
  };
}

/** What a starter Box of so many is called. */
const starterName = (medium: Schemas["Medium"], n: number) => `${n} ${unit(medium, n)} to start with`;

/** How many a Box has that is started with one press. */
const USUAL = 12;

/** The usual starter Box, where one is only one thing among others. */
export function StarterHere() {
  const { medium } = useBench().view.piece.brief;
  const start = useStartBox();
  return (
    <Act onDo={() => start({ starter: USUAL }, starterName(medium, USUAL))}>
      {USUAL} {unit(medium, USUAL)}
    </Act>
  );
}

/** A Box started in minutes: a starter of our own, a typed list, everything that is shipped, or a pigment file. */
export function StartBox() {
  const { medium } = useBench().view.piece.brief;
  const [name, setName] = useState("");
  const [list, setList] = useState("");
  const [file, setFile] = useState("");
  const begin = useStartBox();
  const [, setSearch] = useSearchParams();
  const start = (fill: Partial<Schemas["NewBox"]>, called: string) => begin(fill, name.trim() || called);
  const own = `My ${mediumName(medium)}`;
  return (
    <div className={styles.start}>
      <h2>Start a Box of {mediumName(medium)}</h2>
      <TextInput
        label="Its name, if you like"
        value={name}
        maxLength={80}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <Section title="A starter Box">
        <Acts>
          {SIZES.map((n) => (
            <Act key={n} main={n === USUAL} onDo={() => start({ starter: n }, starterName(medium, n))}>
              {n} {unit(medium, n)}
            </Act>
          ))}
        </Acts>
        <Note>Modelled pigments under plain names. Put in and take out later what you own.</Note>
      </Section>
      <Section title="A photo of your swatches">
        <Act
          onDo={async () => {
            await start({}, own);
            setSearch({ room: "photo" }, { replace: true });
          }}
        >
          Start from a photo
        </Act>
        <Note>A chart, a page of swatches, or the sticks side by side on white paper: each patch becomes one.</Note>
      </Section>
      <Section title="What you own, typed or pasted">
        <ListField value={list} onChange={setList} />
        <Act onDo={() => start({ list }, own)} disabled={!list.trim()}>
          Start with these
        </Act>
      </Section>
      <details>
        <summary>All shipped pigments, or a pigment file</summary>
        <Act onDo={() => start({ shipped: true }, own)}>All 61 modelled pigments</Act>
        <Textarea
          label="Text of a pigment file"
          minRows={3}
          autosize
          maxRows={8}
          value={file}
          onChange={(e) => setFile(e.currentTarget.value)}
        />
        <Act onDo={() => start({ pigment_file: file }, own)} disabled={!file.trim()}>
          Start with the file
        </Act>
      </details>
    </div>
  );
}
