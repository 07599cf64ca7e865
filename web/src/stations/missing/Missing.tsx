import type { ReactNode } from "react";
import { useBench } from "../../bench/context";
import { Act } from "../../kit/Act";
import { StartBox } from "../box/StartBox";
import { FirstPicture } from "../subject/FirstPicture";
import { usePaste } from "../subject/usePaste";
import { Working } from "../subject/Working";
import styles from "./Missing.module.css";

/** What a station cannot go on without, done here and now: a picture, a Box, with `set` a lean set too. `why` says what for. */
export function Missing({ why, set = false }: { why: string; set?: boolean }) {
  const { view, box, boxComes, work } = useBench();
  if (!view.piece.zones.length) return <APicture why={why} />;
  if (boxComes) return <p aria-busy="true" />;
  if (!box?.pigments.length) {
    return (
      <Here why={why}>
        <StartBox />
      </Here>
    );
  }
  if (!set) return null;
  return (
    <Here why={why}>
      <Working />
      {!work.job && (
        <Act main onDo={work.search}>
          Find the lean set
        </Act>
      )}
    </Here>
  );
}

function APicture({ why }: { why: string }) {
  usePaste(useBench().work.takeIn);
  return (
    <Here why={why}>
      <FirstPicture />
      <Working />
    </Here>
  );
}

function Here({ why, children }: { why: string; children: ReactNode }) {
  return (
    <div className={styles.missing}>
      <p>{why}</p>
      {children}
    </div>
  );
}
