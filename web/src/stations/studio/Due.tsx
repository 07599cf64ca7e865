import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, api } from "../../api/client";
import { useNow } from "../../api/useEasel";
import { Note } from "../../kit/Section";
import { said } from "../../room/figures";
import { minutesWord, shortDay, withDays } from "../piece/lasting";
import styles from "./Studio.module.css";

/** How many sessions ahead are shown. */
const AHEAD = 6;

/** Pieces with a date, timed together for one pair of hands. Nothing is shown while no piece is due. */
export function Due() {
  const now = useNow();
  const calendar = useQuery({
    queryKey: ["calendar", now],
    queryFn: () => answer(api.GET("/api/easel/calendar", { params: { query: { now } } })),
    placeholderData: (before) => before,
  });
  const found = calendar.data;
  if (!found?.pieces.length) return null;
  const { sessions } = found.sessions;
  return (
    <section aria-label="Due" className={styles.due}>
      <h2>Due</h2>
      <ul>
        {found.pieces.map((p) => (
          <li key={p.id}>
            <Link to={`/pieces/${p.id}/piece`}>{p.title}</Link>
            <Note>
              {shortDay(p.due)}
              {p.for_whom && `, for ${p.for_whom}`}, {minutesWord(p.left)} left
            </Note>
          </li>
        ))}
      </ul>
      <p>{said(said(withDays(found.words)))}</p>
      <ol>
        {sessions.slice(0, AHEAD).map((s) => {
          const of = [...new Set(s.slots.map((slot) => found.pieces[slot.piece]?.title))];
          return (
            <li key={s.on}>
              {shortDay(s.on)}: {of.join(", ")}, {minutesWord(s.minutes)}
            </li>
          );
        })}
      </ol>
      {sessions.length > AHEAD && <Note>and {sessions.length - AHEAD} more sessions</Note>}
    </section>
  );
}
