import { Dropzone } from "@mantine/dropzone";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, api } from "../../api/client";
import { Station } from "../../bench/Bench";
import { useBench } from "../../bench/context";
import { Picture, type Place } from "../../lenses/picture/Picture";
import { LadderStrip } from "./LadderStrip";
import { Looks } from "./Looks";
import styles from "./Subject.module.css";
import { PatchCard, ZoneCard } from "./ZoneCard";

/** Look, simplify, measure: the reference, its values and its big shapes. */
export function Subject() {
  const bench = useBench();
  const { view, work, isolate } = bench;
  const [cutting, setCutting] = useState(false);
  const [patch, setPatch] = useState<Place | null>(null);
  usePaste(work.takeIn);
  // A cut belongs to one zone: choosing another ends it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: runs when the chosen zone changes
  useEffect(() => setCutting(false), [bench.zone]);
  useEffect(() => {
    if (!isolate) setPatch(null);
  }, [isolate]);

  const cut = (from: Place, to: Place) => {
    setCutting(false);
    if (bench.zone !== null) bench.changes.split(bench.zone, from, to).catch(() => {});
  };
  const surface = view.piece.reference ? (
    <>
      <Looks />
      <Picture onLine={cutting ? cut : undefined} onPatch={setPatch} patch={patch}>
        {cutting && (
          <p className={styles.hintOver}>
            Draw a line across {bench.zone === null ? "the zone" : `zone ${bench.zone}`}. Esc leaves it whole.
          </p>
        )}
      </Picture>
      <Working />
      <Dropzone.FullScreen
        withinPortal={false}
        onDrop={(files) => files[0] && work.takeIn(files[0])}
        maxFiles={1}
        classNames={{ root: styles.over, inner: styles.overInner }}
        styles={{ fullScreen: { inset: 0 } }}
      >
        <p className={styles.overText}>
          Let go: this picture takes the place of the reference. The old one stays in the history.
        </p>
      </Dropzone.FullScreen>
    </>
  ) : (
    <FirstPicture />
  );
  return (
    <Station
      name="Subject"
      surface={surface}
      card={
        isolate && patch ? (
          <PatchCard at={patch} />
        ) : bench.zone !== null ? (
          <ZoneCard cutting={cutting} onCut={setCutting} />
        ) : (
          <WholeCard />
        )
      }
    />
  );
}

function usePaste(takeIn: (file: File) => void) {
  useEffect(() => {
    const paste = (e: ClipboardEvent) => {
      const file = [...(e.clipboardData?.files ?? [])][0];
      if (file) takeIn(file);
    };
    window.addEventListener("paste", paste);
    return () => window.removeEventListener("paste", paste);
  }, [takeIn]);
}

function FirstPicture() {
  const { work } = useBench();
  return (
    <>
      <Dropzone
        onDrop={(files) => files[0] && work.takeIn(files[0])}
        multiple={false}
        className={styles.drop}
        inputProps={{ id: "reference-file", "aria-label": "Choose a picture" }}
        aria-label="Drop, paste or choose a picture"
      >
        <div className={styles.dropText}>
          <b>Drop a picture here, paste one, or choose a file</b>
          <p>
            A photo, a scan or a sketch: JPEG, PNG, WebP or TIFF, up to 100 megapixels. The file is kept untouched on
            this machine.
          </p>
        </div>
      </Dropzone>
      <Working />
    </>
  );
}

/** Progress of long work on the picture, and how to call it off. */
function Working() {
  const { work } = useBench();
  if (!work.job) return null;
  return (
    <div className={styles.working} role="status">
      <span>{work.job.what}</span>
      <progress max={1} value={work.job.share} aria-label={work.job.what} />
      <button type="button" className="act" onClick={work.cancel}>
        Cancel
      </button>
    </div>
  );
}

function WholeCard() {
  const { view, work, groups } = useBench();
  const reference = view.piece.reference;
  const ladder = useQuery({
    queryKey: ["ladder", view.id, reference?.digest, groups],
    queryFn: () =>
      answer(
        api.GET("/api/pieces/{id}/reference/ladder", {
          params: { path: { id: view.id }, query: { groups: groups ?? 5 } },
        }),
      ),
    enabled: !!reference,
  });
  if (!reference) {
    return (
      <div className={styles.card}>
        <h2>No picture yet</h2>
        <p>
          From a picture come the values, the big shapes and what each should be. Everything after this station follows
          from them.
        </p>
      </div>
    );
  }
  const l = ladder.data;
  return (
    <div className={styles.card}>
      <h2>The whole picture</h2>
      <p>
        {reference.file_name}, <span className="figures">{`${reference.width} × ${reference.height}`}</span>
      </p>
      {l && <LadderStrip ladder={l} />}
      {l && (l.clipped.dark > 0.005 || l.clipped.light > 0.005) && (
        <p className={styles.clipped}>
          The camera lost {l.clipped.light > l.clipped.dark ? "the lights" : "the darks"} in{" "}
          {(100 * Math.max(l.clipped.dark, l.clipped.light)).toFixed(1)} % of the picture: values there are a guess.
        </p>
      )}
      <p>Choose a zone by its number, here or in the field. Arrow keys move its mark.</p>
      <label className={styles.another}>
        Another picture
        <input
          id="reference-file"
          type="file"
          accept="image/jpeg,image/png,image/webp,image/tiff"
          onChange={(e) => {
            const file = e.currentTarget.files?.[0];
            if (file) work.takeIn(file);
            e.currentTarget.value = "";
          }}
        />
      </label>
    </div>
  );
}
