import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Act } from "../../kit/Act";
import { Acts, Note } from "../../kit/Section";
import { figure } from "../../room/figures";
import styles from "./Patches.module.css";
import { PatchPhoto } from "./PatchPhoto";
import { PhotoDrop } from "./PhotoDrop";
import { usePatches } from "./usePatches";

/** One cell of a photo: chosen among those that were found, or put where it lies. */
export type ChosenPatch = { photo: string; grey: Schemas["Spot"] | null; patch: Schemas["PatchView"] };

/** A photo of one swatch beside bare paper or a grey card: the cell is pressed and kept. */
export function OnePatch({ keep, onKeep }: { keep: string; onKeep: (of: ChosenPatch) => void }) {
  const from = usePatches();
  const [chosen, setChosen] = useState<number | null>(null);
  const [pointing, setPointing] = useState(false);
  const { photo, patches } = from;
  const patch = chosen === null ? undefined : patches[chosen];
  const spot = async (at: Schemas["Spot"]) => {
    if (pointing) {
      setPointing(false);
      setChosen(null);
      await from.pointGrey(at);
    } else {
      await from.add(at);
      setChosen(patches.length);
    }
  };
  if (!photo) {
    return (
      <PhotoDrop
        small
        words="A photo of it, with bare white paper or a grey card beside it, in even daylight"
        onFile={from.take}
      />
    );
  }
  const screen = patch?.screen;
  return (
    <div className={styles.one}>
      <PatchPhoto
        digest={photo.digest}
        proportion={photo.proportion}
        patches={patches}
        grey={from.grey}
        chosen={chosen}
        onChoose={(i) => (pointing ? spot(middleOf(patches[i].place)) : setChosen(i))}
        onMove={from.move}
        onSpot={spot}
      />
      <Note>{pointing ? "Press the middle of the grey card." : "Press the swatch."}</Note>
      {patch && screen && (
        <p className={styles.read}>
          <i style={{ background: `rgb(${screen.r} ${screen.g} ${screen.b})` }} />
          {patch.name}, give or take {figure(patch.doubt, 1)}
          {patch.doubtful && "; it lies unevenly or in glare"}
        </p>
      )}
      <Acts>
        <Act
          main
          disabled={!patch || from.busy}
          onDo={() => patch && onKeep({ photo: photo.digest, grey: from.grey, patch })}
        >
          {keep}
        </Act>
        <Act pressed={pointing} onDo={() => setPointing(!pointing)}>
          Point at a grey card
        </Act>
      </Acts>
    </div>
  );
}

const middleOf = (p: Schemas["PhotoRect"]) => ({ x: p.x + p.width / 2, y: p.y + p.height / 2 });
