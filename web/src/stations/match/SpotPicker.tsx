import { useRef } from "react";
import styles from "./Match.module.css";

/** Half of the side of the spot that is averaged, in pixels of the picture shown. */
const REACH = 3;

/** A picture on which a spot is chosen; what is told is the mean of a few pixels, as `#rrggbb`. */
export function SpotPicker({ src, alt, onPick }: { src: string; alt: string; onPick: (colour: string) => void }) {
  const ref = useRef<HTMLImageElement>(null);
  const read = (x: number, y: number) => {
    const image = ref.current;
    if (!image?.naturalWidth) return;
    const canvas = document.createElement("canvas");
    const side = 2 * REACH + 1;
    canvas.width = side;
    canvas.height = side;
    const context = canvas.getContext("2d", { willReadFrequently: true });
    if (!context) return;
    const [left, top] = [x * image.naturalWidth - REACH, y * image.naturalHeight - REACH];
    context.drawImage(image, left, top, side, side, 0, 0, side, side);
    onPick(meanOf(context.getImageData(0, 0, side, side).data));
  };
  return (
    <button
      type="button"
      className={styles.picker}
      aria-label={`${alt}: choose a spot`}
      onClick={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        // Pressed by keyboard there is no place: its middle is meant.
        const keyed = e.detail === 0;
        read(keyed ? 0.5 : (e.clientX - box.left) / box.width, keyed ? 0.5 : (e.clientY - box.top) / box.height);
      }}
    >
      <img ref={ref} src={src} alt={alt} draggable={false} />
    </button>
  );
}

/** The mean of pixels as they are seen, not as they are coded. */
function meanOf(data: Uint8ClampedArray): string {
  const sum = [0, 0, 0];
  let count = 0;
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] < 128) continue;
    count++;
    for (const c of [0, 1, 2]) sum[c] += linear(data[i + c] / 255);
  }
  const coded = sum.map((s) => Math.round(255 * gamma(s / Math.max(1, count))));
  return `#${coded.map((n) => n.toString(16).padStart(2, "0")).join("")}`;
}

const linear = (c: number) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);
const gamma = (c: number) => (c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055);
