import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { answer, api, Refused, type Schemas } from "../../api/client";
import { useNotice } from "../../bench/notice";
import { isAtHome } from "../device/isAtHome";
import styles from "./Field.module.css";
import { notesKey } from "./notes";
import { newName, writeDown } from "./unsent";
import { Waiting } from "./Waiting";

/** A fresh note, begun now by this device's clock. */
function fresh(): Schemas["FieldNote"] {
  const now = new Date();
  const local = new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
  return {
    words: "",
    at: local,
    light: "",
    weather: "",
    photo: null,
    file_name: "",
    proportion: 4 / 3,
    outline: [],
    marks: [],
  };
}

/** Quick notes made in the field, on a screen held in one hand. */
export function FieldNotes() {
  const notes = useQuery({ queryKey: notesKey, queryFn: () => answer(api.GET("/api/field-notes")) });
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { say } = useNotice();
  const start = async () => {
    try {
      const note = await answer(api.POST("/api/field-notes", { body: fresh() }));
      queries.invalidateQueries({ queryKey: notesKey });
      navigate(`/field/${note.id}`);
    } catch (e) {
      // Nobody answers: the note is begun here and sent later.
      if (e instanceof Refused && e.problem.status !== 0) say(e.problem.detail, "problem");
      else writeDown({ sent_as: newName(), note: fresh() });
    }
  };
  return (
    <main className={styles.field}>
      <header>
        <h1>Field notes</h1>
        <Link to={isAtHome() ? "/" : "/device"}>{isAtHome() ? "the studio" : "all"}</Link>
      </header>
      <button type="button" className={`act main ${styles.wide}`} onClick={start}>
        A new note
      </button>
      <Waiting />
      {notes.data?.length === 0 && (
        <p>None yet. A thumbnail in minutes: a photo or a few lines, and words tied to places.</p>
      )}
      <ul className={styles.notes}>
        {notes.data?.map((n) => (
          <li key={n.id}>
            <Link to={`/field/${n.id}`}>
              {n.note.photo && <img src={`/api/field-notes/photo/${n.note.photo}`} alt="" />}
              <span>
                <b>{n.note.words || "no words yet"}</b>
                <span>
                  {new Date(n.note.at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })}
                </span>
                <span>
                  {[n.note.light, n.note.weather, n.note.marks.length === 1 ? "1 mark" : `${n.note.marks.length} marks`]
                    .filter(Boolean)
                    .join(", ")}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </main>
  );
}
