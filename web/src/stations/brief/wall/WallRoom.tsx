import { Dropzone } from "@mantine/dropzone";
import { useElementSize } from "@mantine/hooks";
import { useBench } from "../../../bench/context";
import styles from "../Brief.module.css";
import { Photo } from "./Photo";
import { useWall } from "./useWall";

/** The photo of the place: a length measured in it, and panels hung to scale. */
export function WallRoom() {
  const { view, changes } = useBench();
  const { wall } = useWall();
  const { ref, width, height } = useElementSize();
  if (!wall) {
    return (
      <Dropzone
        onDrop={(files) => files[0] && changes.put("wall", files[0])}
        multiple={false}
        className={styles.wallDrop}
        inputProps={{ id: "wall-file", "aria-label": "Choose a photo of the wall" }}
        aria-label="Drop or choose a photo of the wall"
      >
        <div>
          <b>Drop a photo of the wall it will hang on</b>
          <p>With one known length in it, panels can be tried on it to scale.</p>
        </div>
      </Dropzone>
    );
  }
  const aspect = wall.width / wall.height;
  const w = Math.max(0, Math.min(width, height * aspect));
  return (
    <div ref={ref} className={styles.wall}>
      {w > 0 && <Photo key={view.id} wall={wall} w={w} h={w / aspect} />}
    </div>
  );
}
