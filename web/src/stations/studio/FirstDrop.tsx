import { NativeSelect } from "@mantine/core";
import { Dropzone } from "@mantine/dropzone";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, type JobView, Refused, type Schemas } from "../../api/client";
import { useNotice } from "../../bench/notice";
import { media } from "../../bench/stations";
import { useStudio } from "../../lenses/stroke/useGround";
import styles from "./Studio.module.css";

type Medium = Schemas["Medium"];
const REMEMBERED = "medium";

/** A picture dropped at the door begins a piece; the medium is asked once and remembered. */
export function FirstDrop() {
  const [medium, setMedium] = useState<Medium>(() => (localStorage.getItem(REMEMBERED) as Medium) ?? "soft-pastel");
  const [busy, setBusy] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { say } = useNotice();
  const ground = useStudio().data?.grounds.find((g) => g.suits.includes(medium))?.id;
  const begin = async (file: File) => {
    setBusy(true);
    try {
      const title =
        file.name
          .replace(/\.[^.]*$/, "")
          .replace(/[-_]+/g, " ")
          .trim()
          .slice(0, 80) || "A new piece";
      const brief = { title, medium, ground: ground ?? "", size: { width: 400, height: 300 } };
      const piece = await answer(api.POST("/api/pieces", { body: { brief } }));
      try {
        await takenIn(piece.id, file);
      } catch (e) {
        // A file that is no picture leaves no piece behind.
        await api.DELETE("/api/pieces/{id}", { params: { path: { id: piece.id } } });
        throw e;
      }
      queries.invalidateQueries({ queryKey: ["studio"] });
      navigate(`/pieces/${piece.id}/subject`);
    } catch (e) {
      say(e instanceof Refused ? e.problem.detail : String(e), "problem");
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-label="Begin with a picture" className={styles.first}>
      <Dropzone
        onDrop={(files) => files[0] && begin(files[0])}
        multiple={false}
        loading={busy}
        className={styles.drop}
        inputProps={{ id: "first-picture", "aria-label": "Choose a picture to begin with" }}
        aria-label="Drop or choose a picture to begin with"
      >
        <b>Drop a picture here</b>
        <p>It begins a piece: colours and values are measured at once.</p>
      </Dropzone>
      <NativeSelect
        label="In which medium"
        value={medium}
        data={media}
        onChange={(e) => {
          localStorage.setItem(REMEMBERED, e.currentTarget.value);
          setMedium(e.currentTarget.value as Medium);
        }}
      />
    </section>
  );
}

/** Sends the picture and waits until it is measured. */
async function takenIn(piece: number, file: File) {
  const address = `/api/pieces/${piece}/reference?file_name=${encodeURIComponent(file.name)}`;
  const response = await fetch(address, {
    method: "PUT",
    body: file,
    headers: { "content-type": "application/octet-stream" },
  });
  const started = await response.json();
  if (!response.ok) throw new Refused(started);
  await new Promise<void>((done, fail) => {
    const events = new EventSource(`/api/jobs/${(started as JobView).id}/events`);
    events.addEventListener("done", (e) => {
      events.close();
      const { problem } = JSON.parse(e.data) as JobView;
      problem ? fail(new Refused(problem)) : done();
    });
    events.onerror = () => {
      events.close();
      fail(new Error("Lean Swatch does not answer. Drop the picture again once it does."));
    };
  });
}
