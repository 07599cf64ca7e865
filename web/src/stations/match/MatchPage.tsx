import { NativeSelect, TextInput } from "@mantine/core";
import { Dropzone } from "@mantine/dropzone";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { answer, api, Refused } from "../../api/client";
import { mediumName } from "../../bench/stations";
import { useStudio } from "../../lenses/stroke/useGround";
import styles from "./Match.module.css";
import { MatchAnswer } from "./MatchAnswer";
import { SpotPicker } from "./SpotPicker";

/** One colour without a piece: a photo, a spot, a Box, and what comes near. */
export function MatchPage() {
  const boxes = useStudio().data?.boxes ?? [];
  const [chosen, setChosen] = useState("");
  const box = boxes.find((b) => b.id === chosen) ?? boxes[0];
  const [colour, setColour] = useState("");
  const [picture, setPicture] = useState<string | null>(null);
  useEffect(() => {
    document.title = "Match a colour · Lean Swatch";
  }, []);
  useEffect(() => () => void (picture && URL.revokeObjectURL(picture)), [picture]);
  const found = useQuery({
    queryKey: ["match-box", box?.id, colour],
    queryFn: () =>
      answer(
        api.GET("/api/boxes/{id}/match", {
          params: { path: { id: box?.id ?? "" }, query: { colour: colour.trim() } },
        }),
      ),
    enabled: !!box && colour.trim() !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
  const drop = (words: string) => (
    <Dropzone
      accept={["image/png", "image/jpeg", "image/webp"]}
      multiple={false}
      onDrop={(files) => files[0] && setPicture(URL.createObjectURL(files[0]))}
      className={styles.drop}
      inputProps={{ id: "match-photo", "aria-label": "Choose a photo" }}
      aria-label="Drop or choose a photo"
    >
      {words}
    </Dropzone>
  );
  return (
    <main className={styles.page}>
      <aside className={styles.rail}>
        <nav aria-label="The studio">
          <Link to="/">Studio</Link>
        </nav>
        <h1>Match a colour</h1>
        <NativeSelect
          label="Box"
          value={box?.id ?? ""}
          onChange={(e) => setChosen(e.currentTarget.value)}
          data={boxes.map((b) => ({ value: b.id, label: `${b.name} (${mediumName(b.medium)})` }))}
        />
        <TextInput
          label="Colour"
          description="dull blue green, #33aa66 or L a b"
          value={colour}
          onChange={(e) => setColour(e.currentTarget.value)}
          error={found.error instanceof Refused ? found.error.problem.detail : undefined}
        />
        <p className={styles.hint}>
          Drop a photo and press a spot of it, or type a colour. Colours are read as the photo has them: the light it
          was taken in counts.
        </p>
        {picture && drop("Drop another photo")}
      </aside>
      <section className={styles.photo} aria-label="Photo">
        {picture ? (
          <SpotPicker src={picture} alt="Your photo" onPick={setColour} />
        ) : (
          drop("Drop a photo of the colour, or press here to choose one")
        )}
      </section>
      <aside className={styles.rail} aria-label="What comes near">
        {found.data && colour.trim() !== "" ? (
          <MatchAnswer
            found={found.data}
            mixes={box?.medium === "oil" || box?.medium === "watercolour"}
            inSet={() => false}
          />
        ) : (
          <p className={styles.hint}>
            {boxes.length
              ? "The nearest in the Box, and how the colour is mixed, will stand here."
              : "There is no Box yet. Begin one with a piece."}
          </p>
        )}
      </aside>
    </main>
  );
}
