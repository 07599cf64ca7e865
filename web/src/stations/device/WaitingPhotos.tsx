import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { Act } from "../../kit/Act";
import styles from "./Device.module.css";
import { sendPhotos, throwPhotoAway, useUnsentPhotos } from "./unsentPhotos";
import { useSending } from "./useSending";

/** Photos that wait on this device until somebody answers. */
export function WaitingPhotos() {
  const photos = useUnsentPhotos();
  const queries = useQueryClient();
  const send = useCallback(
    () =>
      sendPhotos().then((arrived) => {
        if (arrived) queries.invalidateQueries({ queryKey: ["device-piece"] });
      }),
    [queries],
  );
  useSending(photos.length > 0, send);
  if (!photos.length) return null;
  return (
    <section aria-labelledby="waiting-photos" className={styles.waiting}>
      <h2 id="waiting-photos">{photos.length === 1 ? "A photo waits" : `${photos.length} photos wait`} to be sent</h2>
      <p>They stay on this device and are sent by themselves when the studio answers.</p>
      <ul>
        {photos.map((p) => (
          <li key={`${p.piece} ${p.at} ${p.name}`}>
            <span>
              {new Date(p.at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })}
              {p.refused && <span role="alert"> {p.refused}</span>}
            </span>
            <Act onDo={() => throwPhotoAway(p)}>Throw it away</Act>
          </li>
        ))}
      </ul>
      <Act onDo={send}>Try to send now</Act>
    </section>
  );
}
