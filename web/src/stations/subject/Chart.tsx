import { NativeSelect } from "@mantine/core";
import { useSearchParams } from "react-router";
import { signed, temperatureWord, useBench, useLooking } from "../../bench/context";
import { Acts, Card } from "../../kit/Section";
import { Give } from "../../lenses/give/Give";
import { Picture } from "../../lenses/picture/Picture";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround, useStudio } from "../../lenses/stroke/useGround";
import { Trials } from "../../lenses/trial/Trials";
import { figure } from "../../room/figures";
import styles from "./Chart.module.css";
import { FirstPicture } from "./FirstPicture";

/** The cell that was chosen, kept in the address. */
function useCell(): [number | null, (cell: number | null) => void] {
  const [search, setSearch] = useSearchParams();
  const named = search.get("cell");
  const point = (cell: number | null) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (cell === null) next.delete("cell");
        else next.set("cell", String(cell));
        return next;
      },
      { replace: true },
    );
  return [named === null ? null : Number(named), point];
}

/** The distinct colours of the reference in a grid, and where each occurs. */
export function ChartRoom() {
  const { view, changes } = useBench();
  const { look } = useLooking();
  const ground = useGround();
  const chart = view.piece.chart;
  const [cell, point] = useCell();
  if (!view.piece.reference && !view.derived.shapes.length) {
    return <FirstPicture />;
  }
  if (!chart) {
    return (
      <p className={styles.empty}>
        The distinct colours of the reference, laid out from light to dark and from cool to warm.{" "}
        <button type="button" className="act main" onClick={() => changes.chart(null)}>
          Lay out the chart
        </button>
      </p>
    );
  }
  const columns = Math.max(...chart.cells.map((c) => c.column)) + 1;
  return (
    <div className={styles.room}>
      <ul className={styles.grid} style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}>
        {chart.cells.map((c, i) => (
          <li key={`${c.row}-${c.column}`} style={{ gridRow: c.row + 1, gridColumn: c.column + 1 }}>
            <button
              type="button"
              className="plain"
              aria-pressed={cell === i}
              title={temperatureWord(view.chart_marks[i].temperature)}
              onClick={() => point(cell === i ? null : i)}
            >
              <Stroke marks={[view.chart_marks[i]]} ground={ground} height={62} look={look} />
              <span className="figures">
                {figure(view.chart_marks[i].value, 1)} {signed(view.chart_marks[i].temperature, 0)}
                <i>{figure(c.area * 100, c.area < 0.01 ? 1 : 0)} %</i>
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className={styles.where}>
        {cell !== null && chart.cells[cell] && <Give lab={chart.cells[cell].lab} />}
        <Picture
          bare
          address={cell === null ? undefined : `/api/pieces/${view.id}/chart/where?cell=${cell}&of=${view.revision}`}
        />
      </div>
    </div>
  );
}

/** What was tried for the cell that was chosen; how many cells, and the chart as a wish for another piece. */
export function ChartCard() {
  const { view } = useBench();
  const [cell] = useCell();
  return (
    <>
      {cell !== null && view.piece.chart?.cells[cell] && <Trials key={cell} of={{ cell }} />}
      <WholeChart />
    </>
  );
}

/** How many cells, and the chart as a wish for another piece. */
function WholeChart() {
  const { view, changes } = useBench();
  const studio = useStudio();
  const n = view.piece.chart?.cells.length ?? 0;
  const wished = view.piece.wished;
  const others = studio.data?.pieces.filter((p) => p.id !== view.id) ?? [];
  return (
    <Card>
      <h2>Colour chart</h2>
      {n > 0 && (
        <>
          <p>
            {n} distinct colours by what the eye tells apart. Choose one to see where it occurs. A painting you admire
            gives you its colours this way too.
          </p>
          <Acts>
            <button type="button" className="act" disabled={n <= 1} onClick={() => changes.chart(n - 1)}>
              fewer
            </button>
            <button type="button" className="act" disabled={n >= 36} onClick={() => changes.chart(n + 1)}>
              more
            </button>
            <button type="button" className="act" onClick={() => changes.chart(null)}>
              as many as are distinct
            </button>
          </Acts>
        </>
      )}
      <hr />
      <h3>Colours for this piece</h3>
      {wished ? (
        <>
          <p>
            The lean set of this piece also serves {wished.colours.length} colours of {wished.from}, in their
            proportions.
          </p>
          <button type="button" className="act" onClick={() => changes.request({ do: "set-wished", wished: null })}>
            Leave them out
          </button>
        </>
      ) : (
        <p>Take the chart of another piece as a wish for this one's lean set.</p>
      )}
      {others.length > 0 && (
        <NativeSelect
          label="Take the colours of"
          value=""
          data={[
            { value: "", label: "another piece" },
            ...others.map((p) => ({ value: String(p.id), label: p.title })),
          ]}
          onChange={(e) => e.currentTarget.value && changes.wishColours(Number(e.currentTarget.value))}
        />
      )}
    </Card>
  );
}
