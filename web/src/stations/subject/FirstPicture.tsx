import { Dropzone } from "@mantine/dropzone";
import { useBench } from "../../bench/context";
import styles from "./Subject.module.css";

/** Where the horizon lies when a piece begins with planes. */
const FIRST_PLANES = [
  { kind: "sky" as const, part: { left: 0, top: 0, width: 1, height: 0.55 } },
  { kind: "flat" as const, part: { left: 0, top: 0.55, width: 1, height: 0.45 } },
];

/** Nothing there yet: a picture, or planes. */
export function FirstPicture() {
  const { work, changes } = useBench();
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
      <p className={styles.orNothing}>
        No picture?{" "}
        <button
          type="button"
          className="act"
          onClick={() => changes.request({ do: "lay-planes", planes: FIRST_PLANES })}
        >
          Start from a few planes
        </button>
      </p>
    </>
  );
}
