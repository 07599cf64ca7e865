import { NativeSelect } from "@mantine/core";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { answer, api, type Schemas } from "../../api/client";
import { signed, temperatureWord, useBench, useLooking } from "../../bench/context";
import { Acts, Card, Note, Section } from "../../kit/Section";
import { Give } from "../../lenses/give/Give";
import { Picture } from "../../lenses/picture/Picture";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround, useStudio } from "../../lenses/stroke/useGround";
import { CardSheet } from "../../lenses/trial/CardSheet";
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

/** Most cells on a printed page. */
const ON_A_PAGE = 30;

/** The means to make each cell of the chart; none without a Box. */
function useByHand(): Schemas["CellByHand"][] {
  const { view, box } = useBench();
  const found = useQuery({
    queryKey: ["chart-by-hand", view.id, view.revision],
    queryFn: () => answer(api.GET("/api/pieces/{id}/chart/by-hand", { params: { path: { id: view.id } } })),
    enabled: box !== null && !!view.piece.chart,
    placeholderData: keepPreviousData,
  });
  return found.data ?? [];
}

/** The distinct colours of the reference in a grid, and where each occurs. */
export function ChartRoom() {
  const { view, changes } = useBench();
  const { look } = useLooking();
  const ground = useGround();
  const chart = view.piece.chart;
  const [cell, point] = useCell();
  const byHand = useByHand();
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
              {byHand[i] && <span className={styles.made}>{byHand[i].told?.line ?? byHand[i].nearest?.name}</span>}
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
      {cell !== null && view.piece.chart?.cells[cell] && (
        <div className={styles.chosen}>
          <CellCard cell={cell} />
          <Trials key={cell} of={{ cell }} />
        </div>
      )}
      <WholeChart />
    </>
  );
}

/** The nearest stick and the recipe of one cell. */
function CellCard({ cell }: { cell: number }) {
  const { view } = useBench();
  const { look } = useLooking();
  const ground = useGround();
  const hand = useByHand()[cell];
  if (!hand) return null;
  const { nearest, told, given, off } = hand;
  return (
    <Section title="This colour" level={2}>
      {told && given && (
        <>
          <Stroke
            marks={[view.chart_marks[cell], given]}
            ground={ground}
            height={46}
            look={look}
            label="The cell, and its recipe"
          />
          <p>
            <b>{told.line}</b>
          </p>
          <Note>{off}</Note>
        </>
      )}
      {nearest && (
        <p>
          Nearest in the Box: <b>{nearest.name}</b>. {nearest.off}
        </p>
      )}
      {!told && <Note>Recipes come with a set: find or take one first.</Note>}
    </Section>
  );
}

/** The chart as a sheet to be filled by hand, and its photo read back. */
function FilledByHand() {
  const { view, box } = useBench();
  const [page, setPage] = useState("1");
  const pages = Math.ceil((view.piece.chart?.cells.length ?? 0) / ON_A_PAGE);
  if (!box || !view.piece.chosen.pigments.length) return null;
  const query = new URLSearchParams({ kind: "chart", piece: String(view.id), page });
  return (
    <Section title="Fill it by hand">
      {pages > 1 && (
        <NativeSelect
          label="Page"
          value={page}
          data={Array.from({ length: pages }, (_, i) => String(i + 1))}
          onChange={(e) => setPage(e.currentTarget.value)}
        />
      )}
      <CardSheet box={box.id} query={query} />
      <Note>
        A sheet with each colour, its recipe and an empty cell beside it. Lay an 18 % grey card in its box; the cells of
        the photo become readings of the Box. Read it with the chart and the set it was printed with.
      </Note>
    </Section>
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
      {n > 0 && <FilledByHand />}
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
