import { Dropzone } from "@mantine/dropzone";
import styles from "./Patches.module.css";

/** Where a photo of swatches is dropped or chosen. */
export function PhotoDrop({ small, words, onFile }: { small?: boolean; words: string; onFile: (file: File) => void }) {
  return (
    <Dropzone
      accept={["image/png", "image/jpeg", "image/webp", "image/tiff"]}
      multiple={false}
      onDrop={(files) => files[0] && onFile(files[0])}
      className={`${styles.drop} ${small ? styles.small : ""}`}
      inputProps={{ id: "swatch-photo", "aria-label": "Choose a photo of swatches" }}
      aria-label="Drop or choose a photo of swatches"
    >
      {words}
    </Dropzone>
  );
}
