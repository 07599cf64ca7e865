import { Dropzone } from "@mantine/dropzone";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, Refused, type Schemas } from "../../api/client";
import { followed } from "../../api/following";
import { sent } from "../../api/useJob";
import { useNotice } from "../../bench/notice";
import { mediumName } from "../../bench/stations";
import { paperHere } from "../../room/paper";
import styles from "./Studio.module.css";

/** A picture dropped at the door begins a piece. */
export function FirstDrop({ medium, ground }: { medium: Schemas["Medium"]; ground: string | undefined }) {
  const [busy, setBusy] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotice();
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
      const piece = await answer(api.POST("/api/pieces", { body: { brief, page: paperHere() } }));
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
      tell(e);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dropzone
      onDrop={(files) => files[0] && begin(files[0])}
      multiple={false}
      loading={busy}
      className={styles.drop}
      inputProps={{ id: "first-picture", "aria-label": "Choose a picture to begin with" }}
      aria-label="Drop or choose a picture to begin with"
    >
      <b>Drop a picture to begin</b>
      <p>It begins a piece in {mediumName(medium)}: colours and values are measured at once.</p>
    </Dropzone>
  );
}

/** Sends the picture and waits until it is measured. */
async function takenIn(piece: number, file: File) {
  const started = await sent(`/api/pieces/${piece}/reference`, file);
  const { problem } = await followed(started.id).ended;
  if (problem) throw new Refused(problem);
}
