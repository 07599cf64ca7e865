import { Textarea } from "@mantine/core";
import { useEffect, useState } from "react";
import { answer, api, type BoxView, type Schemas } from "../../api/client";
import { useReadings } from "../../api/useBox";
import { useBench } from "../../bench/context";
import { unit } from "../../bench/stations";
import { Act } from "../../kit/Act";
import { Acts, Card, Note, Section, Warning } from "../../kit/Section";
import { PatchPhoto } from "../../lenses/patches/PatchPhoto";
import { PhotoDrop } from "../../lenses/patches/PhotoDrop";
import { usePatches } from "../../lenses/patches/usePatches";
import { figure } from "../../room/figures";

/** A photo of a sheet of swatches on its way into the Box. */
export function useFromPhoto() {
  const from = usePatches();
  const [pointing, setPointing] = useState(false);
  return { ...from, pointing, setPointing };
}

type Coming = ReturnType<typeof useFromPhoto>;

/** The photo with its cells. */
export function FromPhotoRoom({ coming }: { coming: Coming }) {
  const { photo, patches, pointing, setPointing } = coming;
  if (!photo) {
    return (
      <PhotoDrop
        words="Drop a photo of your swatches here, or press to choose one: a chart, a page of a notebook, sticks side by side, on plain white paper in even daylight"
        onFile={coming.take}
      />
    );
  }
  const grey = (at: Schemas["Spot"]) => {
    setPointing(false);
    coming.pointGrey(at);
  };
  const middle = (i: number) => {
    const { x, y, width, height } = patches[i].place;
    return { x: x + width / 2, y: y + height / 2 };
  };
  return (
    <PatchPhoto
      digest={photo.digest}
      proportion={photo.proportion}
      patches={patches}
      grey={coming.grey}
      onChoose={(i) => (pointing ? grey(middle(i)) : coming.toggle(i))}
      onMove={coming.move}
      onSpot={(at) => (pointing ? grey(at) : coming.add(at))}
    />
  );
}

/** What was found on the photo, what it is called, and putting it in. */
export function FromPhotoCard({ box, coming, onDone }: { box: BoxView; coming: Coming; onDone: () => void }) {
  const { view } = useBench();
  const { takePhoto } = useReadings(box.id);
  const { photo, patches, grey, pointing, setPointing } = coming;
  const taken = patches.filter((p) => !p.off);
  const plain = taken.map((p) => p.name).join("\n");
  const [names, setNames] = useState(plain);
  const [own, setOwn] = useState(false);
  // Until a name is typed, names follow the cells.
  useEffect(() => {
    if (!own) setNames(plain);
  }, [plain, own]);
  if (!photo) {
    return (
      <Card>
        <h2>From a photo</h2>
        <p>
          Every patch of colour becomes a {unit(box.medium, 1)} of this Box, or a reading of one that is in it. Leave
          bare paper between the patches; a grey card on the sheet makes it surer.
        </p>
      </Card>
    );
  }
  const lines = names.split("\n").map((l) => l.trim());
  while (lines.length && !lines[lines.length - 1]) lines.pop();
  const known = lines.filter((l) => box.pigments.some((p) => p.name.toLowerCase() === l.toLowerCase())).length;
  const doubtful = patches.flatMap((p, i) => (p.doubtful && !p.off ? [i + 1] : []));
  const guessed = patches.filter((p) => p.guessed).length;
  const doubt = taken.length ? taken.reduce((sum, p) => sum + p.doubt, 0) / taken.length : 0;
  const put = async () => {
    const cells = taken.map((p, i) => ({ place: p.place, name: lines[i] ?? "" }));
    const done = await takePhoto(() =>
      answer(
        api.POST("/api/boxes/{id}/from-photo", {
          params: { path: { id: box.id } },
          body: { photo: photo.digest, grey, ground: view.piece.brief.ground, cells },
        }),
      ),
    );
    if (done) onDone();
  };
  return (
    <Card>
      <h2>From a photo</h2>
      <p>
        {patches.length - guessed} patches found
        {guessed > 0 && `, ${guessed} guessed from rows and columns`}; {taken.length} are taken, give or take{" "}
        {figure(doubt, 1)}.
      </p>
      <Note>
        {pointing
          ? "Press the middle of the grey card."
          : "Press a cell to leave it out or take it in, drag it, or press the photo where one is missing."}
      </Note>
      <Acts>
        <Act pressed={pointing} onDo={() => setPointing(!pointing)}>
          {grey ? "Point at the grey card again" : "Point at a grey card"}
        </Act>
        {grey && <Act onDo={() => coming.pointGrey(null)}>There is none</Act>}
      </Acts>
      {doubtful.length > 0 && (
        <Warning>
          Uneven or in glare: {doubtful.slice(0, 8).join(", ")}
          {doubtful.length > 8 && " and more"}.
        </Warning>
      )}
      <Section title="Names, one a line">
        <Textarea
          aria-label="Names, one a line"
          autosize
          minRows={6}
          maxRows={14}
          value={names}
          onChange={(e) => {
            setOwn(true);
            setNames(e.currentTarget.value);
          }}
        />
        <Note>
          In the order of the numbers, those left out passed over. A name that is in the Box makes it a reading of that
          {` ${unit(box.medium, 1)}`}
          {known > 0 && ` (${known} are)`}.
        </Note>
        {lines.length !== taken.length && (
          <Warning>
            {lines.length} names for {taken.length} cells.
          </Warning>
        )}
      </Section>
      <Act main disabled={coming.busy || taken.length === 0 || lines.length !== taken.length} onDo={put}>
        Put {taken.length} into the Box
      </Act>
      <Section title="Another photo">
        <PhotoDrop small words="Drop or choose another" onFile={coming.take} />
      </Section>
    </Card>
  );
}
