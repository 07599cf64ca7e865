import type { Schemas } from "../../api/client";
import { useBench } from "../../bench/context";
import { TextField } from "../../kit/DraftFields";
import { Card } from "../../kit/Section";
import styles from "./Compositions.module.css";

/** A sheet of pencil compositions, cut apart, numbered and seen at the proportion of the piece. */
export function CompositionsRoom() {
  const { view, changes } = useBench();
  const sheet = view.piece.compositions;
  const { width, height } = view.piece.brief.size;
  if (!sheet) {
    return (
      <p className={styles.empty}>
        Several small pencil compositions on one sheet, photographed: they are cut apart, numbered and compared at{" "}
        <span className="figures">{`${width / 10} × ${height / 10}`}</span>. <SheetFile label="Take in a sheet" main />
      </p>
    );
  }
  const set = (change: Partial<Schemas["Compositions"]>) =>
    changes.request({ do: "set-compositions", compositions: { ...sheet, ...change } });
  return (
    <ol className={styles.sheet}>
      {sheet.cut.map((c, i) => (
        <li key={`${c.part.left}-${c.part.top}`} data-chosen={sheet.chosen === i}>
          <Cut sheet={sheet} part={c.part} proportion={width / height} piece={view.id} number={i + 1} />
          <p className={styles.line}>
            <b className="figures">{i + 1}</b>
            <button
              type="button"
              className="act"
              aria-pressed={sheet.chosen === i}
              onClick={() => set({ chosen: sheet.chosen === i ? null : i })}
            >
              {sheet.chosen === i ? "Chosen" : "Choose"}
            </button>
          </p>
          <TextField
            aria-label={`Why ${i + 1} ${sheet.chosen === i ? "was chosen" : "was not chosen"}`}
            placeholder={sheet.chosen === i ? "why this one" : "why not"}
            kept={c.reason}
            maxLength={80}
            onKeep={(reason) => set({ cut: sheet.cut.map((x, n) => (n === i ? { ...x, reason } : x)) })}
          />
        </li>
      ))}
    </ol>
  );
}

/** One composition, its middle cut to the proportion of the piece. */
function Cut({
  sheet,
  part,
  proportion,
  piece,
  number,
}: {
  sheet: Schemas["Compositions"];
  part: Schemas["Crop"];
  proportion: number;
  piece: number;
  number: number;
}) {
  const [w, h] = [part.width * sheet.width, part.height * sheet.height];
  const [fw, fh] = w / h > proportion ? [h * proportion, h] : [w, w / proportion];
  const [x, y] = [part.left * sheet.width + (w - fw) / 2, part.top * sheet.height + (h - fh) / 2];
  return (
    <svg viewBox={`${x} ${y} ${fw} ${fh}`} role="img" aria-label={`Composition ${number}`} className={styles.cut}>
      <image href={`/api/pieces/${piece}/pictures/${sheet.digest}`} width={sheet.width} height={sheet.height} />
    </svg>
  );
}

function SheetFile({ label, main }: { label: string; main?: boolean }) {
  const { changes } = useBench();
  return (
    <label className={main ? styles.fileMain : styles.file}>
      {label}
      <input
        id="sheet-file"
        type="file"
        accept="image/jpeg,image/png,image/webp,image/tiff"
        onChange={(e) => {
          const file = e.currentTarget.files?.[0];
          if (file) changes.put("compositions", file);
          e.currentTarget.value = "";
        }}
      />
    </label>
  );
}

export function CompositionsCard() {
  const { view, changes } = useBench();
  const sheet = view.piece.compositions;
  return (
    <Card>
      <h2>Before colour</h2>
      {sheet ? (
        <>
          <p>
            {sheet.cut.length} on {sheet.file_name}. Choose one; the others are kept with the reason.
          </p>
          <button
            type="button"
            className="act main"
            disabled={sheet.chosen === null || sheet.chosen === undefined}
            onClick={() => changes.carry()}
          >
            Carry it on as the reference
          </button>
          <SheetFile label="Another sheet" />
        </>
      ) : (
        <p>Squint at each: choose the one that still reads with three values.</p>
      )}
    </Card>
  );
}
