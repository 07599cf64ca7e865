import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link } from "react-router";
import { answer, api } from "../../api/client";
import { mediumName } from "../../bench/stations";
import { useUnsent } from "../field/unsent";
import styles from "./Device.module.css";
import { keepAtHand } from "./keepAtHand";
import { WaitingPhotos } from "./WaitingPhotos";

/** The first page of a paired phone or tablet. */
export function Device() {
  const studio = useQuery({ queryKey: ["studio"], queryFn: () => answer(api.GET("/api/studio")), retry: 0 });
  const waiting = useUnsent().length;
  useEffect(() => {
    document.title = "At the easel · Lean Swatch";
    keepAtHand();
  }, []);
  return (
    <main className={styles.device}>
      <h1>At the easel</h1>
      {studio.isError && (
        <p role="alert">
          The studio does not answer. <Link to="/field">A note</Link> can still be written; it is sent later.
        </p>
      )}
      <nav className={styles.doors} aria-label="What this device is for">
        <Link to="/field">
          <b>Field notes</b>
          <span>{waiting ? `${waiting} waiting to be sent` : "a thumbnail in minutes"}</span>
        </Link>
        <Link to="/drills">
          <b>Drills</b>
          <span>two minutes for the eye</span>
        </Link>
        <Link to="/match">
          <b>Match a colour</b>
          <span>which of mine is this</span>
        </Link>
      </nav>
      <WaitingPhotos />
      <h2>Pieces</h2>
      <ul className={styles.lines}>
        {studio.data?.pieces.map((p) => (
          <li key={p.id}>
            <Link to={`/device/pieces/${p.id}`}>
              <b>{p.title}</b>
              <span>{mediumName(p.medium)}</span>
            </Link>
          </li>
        ))}
      </ul>
      {studio.data?.pieces.length === 0 && <p>None yet. A piece begins on the machine where the studio is.</p>}
      <h2>Boxes</h2>
      <ul className={styles.lines}>
        {studio.data?.boxes.map((b) => (
          <li key={b.id}>
            <Link to={`/device/boxes/${b.id}`}>
              <b>{b.name}</b>
              <span>
                {mediumName(b.medium)}, {b.pigments} in it
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </main>
  );
}
