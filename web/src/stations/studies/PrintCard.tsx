import { NativeSelect, NumberInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, type Schemas } from "../../api/client";
import { useBench } from "../../bench/context";
import { Card } from "../../kit/Section";
import { figure, typedNumber } from "../../room/figures";
import styles from "./Studies.module.css";

/** The sheet on paper: size of each study, paper, and the two copies. */
export function PrintCard({ onClose }: { onClose: () => void }) {
  const { view, changes } = useBench();
  const { sheet } = view.piece;
  const base = `/api/pieces/${view.id}/sheet`;
  const numbers = view.piece.studies.map((s) => s.number);
  const [left, setLeft] = useState<number[]>([]);
  const chosen = numbers.filter((n) => !left.includes(n));
  const which = left.length ? `studies=${chosen.join(",")}` : "";
  // The sheet itself says whether it fits: asked again whenever something on it changed.
  const fits = useQuery({
    queryKey: ["sheet", view.id, view.revision, which],
    queryFn: async () => {
      const r = await fetch(`${base}.svg?${which}`);
      return r.ok
        ? { pages: Number(r.headers.get("x-pages") ?? 1), problem: null }
        : { pages: 0, problem: asProblem(await r.json()).detail };
    },
  });
  const set = (change: Partial<Schemas["SheetSettings"]>) =>
    changes.request({ do: "set-sheet", sheet: { ...sheet, ...change } });
  const reference = view.piece.reference;
  const long = sheet.longer_side / 10;
  const share = (side: number) => (reference ? side / Math.max(reference.width, reference.height) : 1) * long;
  const [wide, high] = [share(reference?.width ?? 1), share(reference?.height ?? 1)];
  return (
    <Card>
      <h2>Print the sheet</h2>
      <NumberInput
        key={sheet.longer_side}
        label="Longer side of each study, cm"
        defaultValue={sheet.longer_side / 10}
        min={2}
        max={30}
        step={0.5}
        decimalScale={1}
        onBlur={(e) => {
          const mm = typedNumber(e.currentTarget.value) * 10;
          if (mm && mm !== sheet.longer_side) set({ longer_side: mm });
        }}
      />
      <NativeSelect
        label="Paper"
        value={sheet.page}
        data={[
          { value: "a5", label: "A5" },
          { value: "a4", label: "A4" },
          { value: "a3", label: "A3" },
          { value: "letter", label: "Letter" },
        ]}
        onChange={(e) => set({ page: e.currentTarget.value as Schemas["PageFormat"] })}
      />
      {numbers.length > 1 && (
        <fieldset className={styles.kinds}>
          <legend>Studies on it</legend>
          <span className={styles.which}>
            {numbers.map((n) => (
              <label key={n}>
                <input
                  type="checkbox"
                  checked={!left.includes(n)}
                  disabled={chosen.length === 1 && !left.includes(n)}
                  onChange={() => setLeft(left.includes(n) ? left.filter((x) => x !== n) : [...left, n])}
                />{" "}
                <span className="figures">{n}</span>
              </label>
            ))}
          </span>
        </fieldset>
      )}
      {fits.data?.problem ? (
        <p role="alert" className={styles.stale}>
          {fits.data.problem}
        </p>
      ) : (
        <>
          <p>
            Each study {figure(wide, 1)} × {figure(high, 1)} cm on paper when printed at 100 %. A 50 mm line at the foot
            lets you check.
            {(fits.data?.pages ?? 1) > 1 && ` ${fits.data?.pages} pages.`}
          </p>
          <p className={styles.links}>
            <a href={`${base}.pdf?${which}`} target="_blank" rel="noreferrer" id="print-pdf">
              PDF, painted
            </a>
            <a href={`${base}.pdf?copy=flat&${which}`} target="_blank" rel="noreferrer">
              PDF, flat colours
            </a>
            <a href={`${base}.pdf?copy=outline&${which}`} target="_blank" rel="noreferrer">
              PDF, outlines to paint over
            </a>
            <a href={`${base}.png?${which}`} download={`studies.png`}>
              PNG, painted
            </a>
            <a href={`${base}.svg?${which}`} download="studies.svg">
              SVG, first page
            </a>
            <a href={`${base}.png?copy=outline&${which}`} download={`studies-outline.png`}>
              PNG, outlines
            </a>
          </p>
          <div className={styles.pages}>
            {Array.from({ length: fits.data?.pages ?? 1 }, (_, i) => (
              <a key={i} href={`${base}.png?page=${i + 1}&${which}`} target="_blank" rel="noreferrer">
                <img
                  src={`${base}.svg?page=${i + 1}&of=${view.revision}&${which}`}
                  alt={`Page ${i + 1} of the sheet as it will print`}
                />
              </a>
            ))}
          </div>
        </>
      )}
      <button type="button" className="act" onClick={onClose}>
        Back to the study
      </button>
    </Card>
  );
}
