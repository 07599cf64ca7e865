import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { answer, api, type PieceView, Refused, type Schemas } from "../../api/client";
import { localNow, useNow } from "../../api/useEasel";
import { useNotice } from "../../bench/notice";
import { lasting } from "../piece/lasting";
import styles from "./Device.module.css";
import { DeviceTrial } from "./DeviceTrial";
import { keepPhoto, sendPhoto } from "./unsentPhotos";
import { WaitingPhotos } from "./WaitingPhotos";

/** A piece at its stage, in one hand: what it should look like, what to do now, and a photo of how it stands. */
export function DevicePiece() {
  const id = Number(useParams().id);
  const now = useNow();
  const queries = useQueryClient();
  const { say, tell } = useNotice();
  const [busy, setBusy] = useState(false);
  const piece = useQuery({
    queryKey: ["device-piece", id],
    queryFn: () => answer(api.GET("/api/pieces/{id}", { params: { path: { id } } })),
  });
  const easel = useQuery({
    queryKey: ["device-easel", id, piece.data?.revision, now],
    queryFn: () => answer(api.GET("/api/pieces/{id}/easel", { params: { path: { id }, query: { now } } })),
    enabled: !!piece.data,
    placeholderData: (before) => before,
  });
  if (piece.isError) {
    return (
      <main className={styles.device}>
        <p role="alert">
          {piece.error instanceof Refused ? piece.error.problem.detail : "The studio does not answer."}
        </p>
        <Link to="/device">Back</Link>
      </main>
    );
  }
  const view = piece.data;
  if (!view) return <main className={styles.device} aria-busy="true" />;
  const show = (next: Schemas["PieceView"]) => queries.setQueryData(["device-piece", id], next);
  const at = easel.data?.at;
  const task = at?.tasks.find((t) => JSON.stringify(t.id) === JSON.stringify(at.next));
  const did = () =>
    task &&
    answer(
      api.PUT("/api/pieces/{id}/easel/done", {
        params: { path: { id } },
        body: { task: task.id, done: true, at: localNow(), base_revision: view.revision },
      }),
    ).then(show, (e) => {
      tell(e);
      piece.refetch();
    });
  const photo = async (file: File) => {
    setBusy(true);
    const taken = { piece: id, at: localNow(), name: file.name, file };
    try {
      const refused = await sendPhoto(taken);
      if (refused) return say(refused, "problem");
      piece.refetch();
      say("The photo is with the piece. It is laid over its plan on the machine where the studio is.");
    } catch {
      await keepPhoto(taken);
      say("The studio does not answer. The photo waits on this device and is sent by itself.");
    } finally {
      setBusy(false);
    }
  };
  return (
    <main className={styles.device}>
      <Link to="/device">All</Link>
      <h1>{view.piece.brief.title}</h1>
      {view.piece.zones.length > 0 && (
        <img
          className={styles.plan}
          src={`/api/pieces/${id}/${view.derived.mixes.length ? "painted?width=800&" : "planned/view?"}of=${view.revision}`}
          alt="The piece as planned"
        />
      )}
      {task ? (
        <section aria-label="What to do now">
          <p className={styles.small}>{at && at.next_in > 0 ? `Next, in ${lasting(at.next_in)}` : "Now"}</p>
          <h2>{task.title}</h2>
          <p>{task.how}</p>
          {task.gate && <p role="alert">{task.gate}</p>}
          <button type="button" className="act main" onClick={did}>
            It is done
          </button>
          {task.id.zone != null && <DeviceTrial key={task.id.zone} view={view} zone={task.id.zone} />}
        </section>
      ) : (
        easel.data && (
          <p>
            {at ? "Everything is done." : "There is no set to lay yet: find it on the machine where the studio is."}
          </p>
        )
      )}
      <label className={styles.file}>
        {busy ? "Sending the photo …" : "A photo of how it stands"}
        <input
          type="file"
          accept="image/*"
          capture="environment"
          disabled={busy}
          onChange={(e) => e.currentTarget.files?.[0] && photo(e.currentTarget.files[0])}
        />
      </label>
      <WaitingPhotos />
      {view.piece.others.length > 0 && <References view={view} now={task?.id.zone ?? null} />}
      {view.piece.easel.photos.length > 0 && (
        <p className={styles.small}>
          {view.piece.easel.photos.length === 1 ? "One photo is" : `${view.piece.easel.photos.length} photos are`} with
          it.
        </p>
      )}
    </main>
  );
}

/** The other references, those first that are pinned to what is laid now. */
function References({ view, now }: { view: PieceView; now: number | null }) {
  const isPinned = (o: Schemas["Other"]) => now !== null && o.pinned.includes(now);
  const { others } = view.piece;
  return (
    <section aria-label="References">
      {[...others.filter(isPinned), ...others.filter((o) => !isPinned(o))].map((o) => (
        <figure key={o.digest} className={styles.reference}>
          <img className={styles.plan} src={`/api/pieces/${view.id}/pictures/${o.digest}`} alt={o.file_name} />
          <figcaption>{o.purpose || o.file_name}</figcaption>
        </figure>
      ))}
    </section>
  );
}
