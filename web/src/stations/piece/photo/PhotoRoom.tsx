import { NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { answer, api, Refused } from "../../../api/client";
import { localNow, type Stage, useEasel } from "../../../api/useEasel";
import { useBench, useSelection } from "../../../bench/context";
import { useNotice } from "../../../bench/notice";
import { Act } from "../../../kit/Act";
import { Acts, Card, Note, Section, Warning } from "../../../kit/Section";
import { Tick } from "../../../kit/Tick";
import { said } from "../../../room/figures";
import { Laid } from "./Laid";
import styles from "./Photo.module.css";

/** Which photo is looked at, in the address; the last one when none is named. */
export function usePhoto() {
  const { view } = useBench();
  const [search, setSearch] = useSearchParams();
  const { photos } = view.piece.easel;
  const asked = search.get("photo");
  const at = asked !== null && photos[Number(asked)] ? Number(asked) : photos.length - 1;
  const choose = (n: number) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        next.set("photo", String(n));
        return next;
      },
      { replace: true },
    );
  return { at, photo: photos[at], choose };
}

/** What a photo says against its stage. */
export function useProgress(at: number) {
  const { view } = useBench();
  return useQuery({
    queryKey: ["progress", view.id, view.revision, at],
    queryFn: () => answer(api.GET("/api/pieces/{id}/easel/photos/{at}", { params: { path: { id: view.id, at } } })),
    enabled: at >= 0,
    retry: false,
    placeholderData: (before) => before,
  });
}

/** Takes a photo in: a file, or one by the simulated camera. */
function usePut() {
  const { view, changes } = useBench();
  const { say } = useNotice();
  const put = (call: () => Promise<Response>) =>
    changes.answered(async () => {
      const response = await call();
      const body = await response.json();
      if (!response.ok) throw new Refused(body);
      return body;
    });
  const at = () => `at=${encodeURIComponent(localNow())}`;
  return {
    file: (file: File) => {
      if (!file.type.startsWith("image/")) {
        say(`"${file.name}" is no picture. Take a JPEG, PNG, WebP or TIFF.`, "problem");
        return Promise.resolve(null);
      }
      return put(() =>
        fetch(`/api/pieces/${view.id}/easel/photos?${at()}&file_name=${encodeURIComponent(file.name)}`, {
          method: "PUT",
          body: file,
          headers: { "content-type": "application/octet-stream" },
        }),
      );
    },
    simulated: () => put(() => fetch(`/api/pieces/${view.id}/easel/photos/simulated?${at()}`, { method: "POST" })),
  };
}

/** The photo of the piece with the plan laid over it. */
export function PhotoRoom() {
  const { at, photo } = usePhoto();
  const progress = useProgress(at);
  const put = usePut();
  const drop = (files: FileList) => files[0] && put.file(files[0]);
  if (!photo) {
    return (
      <div
        className={styles.empty}
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          drop(e.dataTransfer.files);
        }}
      >
        <p>Photograph the piece as it stands, all four corners in sight, and drop the photo here.</p>
        <Acts>
          <FilePick onPick={(f) => put.file(f)}>Choose a photo</FilePick>
          <Act onDo={put.simulated}>Try it with the simulated camera</Act>
        </Acts>
      </div>
    );
  }
  return <Laid key={photo.digest} at={at} photo={photo} progress={progress.data?.progress ?? null} />;
}

function FilePick({ children, onPick }: { children: string; onPick: (f: File) => unknown }) {
  return (
    <label className="act">
      {children}
      <input
        type="file"
        accept="image/*"
        className={styles.file}
        onChange={(e) => {
          const file = e.currentTarget.files?.[0];
          e.currentTarget.value = "";
          if (file) onPick(file);
        }}
      />
    </label>
  );
}

/** What the photo says: off zones, relations that moved, what to do next, and whether it is time to stop. */
export function PhotoCard() {
  const { view, changes } = useBench();
  const { selectZone } = useSelection();
  const { at, photo, choose } = usePhoto();
  const progress = useProgress(at);
  const put = usePut();
  const easel = useEasel();
  const [search, setSearch] = useSearchParams();
  const stepBack = search.get("back") === "1";
  const names = (z: number) => view.piece.zones.find((o) => o.id === z)?.name || `zone ${z}`;
  if (!photo) return <p>A photo says how far the piece is from where it should be by now.</p>;
  const problem = progress.error instanceof Refused ? progress.error.problem.detail : "";
  const p = progress.error ? undefined : progress.data?.progress;
  const set = (change: Partial<typeof photo>) =>
    changes.requestNow((v) => {
      const now = v.piece.easel.photos[at];
      return now ? { do: "set-progress-photo", at, photo: { ...now, ...change } } : null;
    });
  return (
    <Card>
      <h2>Progress</h2>
      {problem && <Warning>{problem}</Warning>}
      {p && <p>{said(p.words)}</p>}
      {p && progress.data?.gain && <Note>{progress.data.gain}</Note>}
      {p && p.next.length > 0 && (
        <Section title="Do next">
          <ol>
            {p.next.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
        </Section>
      )}
      {p && p.relations.length > 0 && (
        <Section title="Relations that moved">
          <ul>
            {p.relations.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </Section>
      )}
      {p && (
        <Section title="Zone by zone">
          <ul>
            {[...p.zones]
              .sort((a, b) => Number(b.off) - Number(a.off))
              .map((z) => (
                <li key={z.zone}>
                  <button type="button" className="act" onClick={() => selectZone(z.zone)}>
                    {z.zone} {names(z.zone)}
                  </button>{" "}
                  {z.off ? said(z.sentence) : "as it should be"}
                </li>
              ))}
          </ul>
        </Section>
      )}
      {p && p.finishing.length > 0 && (
        <Section title="Before you stop">
          <ul>
            {p.finishing.map((c) => (
              <li key={c.words}>
                {c.sound ? "✓ " : "? "}
                {said(c.words)}
              </li>
            ))}
          </ul>
          <Note>A caution, never a lock: you know when it is done.</Note>
        </Section>
      )}
      <Section title="The photo">
        <Tick
          on={stepBack}
          onTick={(on) =>
            setSearch(
              (old) => {
                const next = new URLSearchParams(old);
                if (on) next.set("back", "1");
                else next.delete("back");
                return next;
              },
              { replace: true },
            )
          }
        >
          step back: small, in greys and mirrored, beside the study
        </Tick>
        <NativeSelect
          label="It shows"
          value={photo.stage ?? ""}
          data={[
            { value: "", label: "what is recognised" },
            ...(easel.data?.at?.stages ?? []).map((s) => ({
              value: s.stage,
              label: `the piece after ${s.name.toLowerCase()}`,
            })),
          ]}
          onChange={(e) => set({ stage: (e.currentTarget.value || null) as Stage | null })}
        />
        <Tick on={!!photo.card} onTick={(on) => set({ card: on ? { x: 0.5, y: 0.04 } : null })}>
          a grey card lies in it: drag its mark onto it
        </Tick>
        <Acts>
          <FilePick onPick={(f) => put.file(f)}>Another photo</FilePick>
          <Act onDo={put.simulated}>Simulated camera</Act>
          {photo.corners && <Act onDo={() => set({ corners: null })}>Find the corners again</Act>}
          <Act onDo={() => changes.request({ do: "set-progress-photo", at, photo: null })}>Take it off</Act>
        </Acts>
        {view.piece.easel.photos.length > 1 && (
          <Acts>
            {view.piece.easel.photos.map((o, i) => (
              <Act key={o.digest + o.at} pressed={i === at} onDo={() => choose(i)}>
                {new Date(o.at).toLocaleDateString(undefined, { day: "numeric", month: "short" })} ({i + 1})
              </Act>
            ))}
          </Acts>
        )}
      </Section>
    </Card>
  );
}
