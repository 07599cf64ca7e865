import { useState } from "react";
import { Act } from "../../kit/Act";
import { Acts } from "../../kit/Section";
import styles from "./Journal.module.css";

/** A colour carried about by the pointer: CIELAB, as the journal is asked. */
export const CARRIED = "application/x-lab";

/** Where a colour is dropped to find its like; it can also be chosen or typed. */
export function ColourWell({ colour, onColour }: { colour: string | null; onColour: (c: string | null) => void }) {
  const [over, setOver] = useState(false);
  return (
    <div
      className={styles.well}
      data-over={over}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(CARRIED)) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        const lab = e.dataTransfer.getData(CARRIED);
        if (lab) onColour(lab);
      }}
    >
      <label>
        <span>With a colour like</span>
        <input
          type="color"
          value={colour?.startsWith("#") ? colour : hexOf(colour)}
          onChange={(e) => onColour(e.currentTarget.value)}
        />
      </label>
      {colour && (
        <Acts>
          <Act onDo={() => onColour(null)}>Any colour</Act>
        </Acts>
      )}
    </div>
  );
}

/** The browser's own reading of a CIELAB colour, for its chooser; middle grey where there is none. */
function hexOf(lab: string | null): string {
  const [l, a, b] = (lab ?? "54,0,0").split(",").map(Number);
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = 1;
  const pen = canvas.getContext("2d");
  if (!pen) return "#808080";
  pen.fillStyle = `lab(${l}% ${a} ${b})`;
  pen.fillRect(0, 0, 1, 1);
  const [r = 128, g = 128, bl = 128] = pen.getImageData(0, 0, 1, 1).data;
  return `#${[r, g, bl].map((n) => n.toString(16).padStart(2, "0")).join("")}`;
}
