import { NativeSelect, NumberInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { answer, api } from "../../../api/client";
import { useBench, useLooking } from "../../../bench/context";
import { Card, Note, Section } from "../../../kit/Section";
import { Plan } from "../../../lenses/picture/Plan";
import { paintedPlan } from "../../../lenses/picture/Planned";
import { useGround } from "../../../lenses/stroke/useGround";
import { said } from "../../../room/figures";

/** Squares along the longer side and the paper, kept in the address. */
function useEnlarging() {
  const { view } = useBench();
  const [search, setSearch] = useSearchParams();
  const squares = Math.min(24, Math.max(2, Number(search.get("squares")) || 6));
  const format = search.get("paper") ?? view.piece.sheet.page;
  const put = (name: string, value: string) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        next.set(name, value);
        return next;
      },
      { replace: true },
    );
  const found = useQuery({
    queryKey: ["enlarging", view.id, view.revision, squares, format],
    queryFn: () =>
      answer(
        api.GET("/api/pieces/{id}/enlarging", {
          params: { path: { id: view.id }, query: { squares, format: format as "a4" } },
        }),
      ),
    placeholderData: (before) => before,
  });
  return { squares, format, put, found: found.data };
}

/** The plan under the grid that is drawn on the piece. */
export function LargeRoom() {
  const { view } = useBench();
  const { look, flat } = useLooking();
  const ground = useGround();
  const { found } = useEnlarging();
  const marks = new Map(
    view.derived.shapes.map(
      (s) => [s.zone, view.derived.mixes.find((m) => m.zone === s.zone)?.given ?? s.target] as const,
    ),
  );
  const { width, height } = view.piece.brief.size;
  const map = view.derived.map;
  const scale = map ? Math.min(map.width / width, map.height / height) : 1;
  const grid = found?.grid;
  return (
    <Plan
      marks={marks}
      ground={ground}
      look={look}
      label="The plan under its grid"
      painted={flat || !view.derived.mixes.length ? undefined : paintedPlan(view)}
    >
      {grid && map && (
        <g stroke="#f4f4f4" strokeWidth={1.2} fontSize={map.width / 34} fill="#f4f4f4" paintOrder="stroke">
          {grid.lines_across.map((x) => (
            <line key={`x${x}`} x1={x * scale} x2={x * scale} y1={0} y2={map.height} />
          ))}
          {grid.lines_down.map((y) => (
            <line key={`y${y}`} x1={0} x2={map.width} y1={y * scale} y2={y * scale} />
          ))}
          <g stroke="#101010" strokeWidth={3}>
            {Array.from({ length: grid.across }, (_, i) => (
              <text key={i} x={(i + 0.5) * grid.on_piece * scale} y={map.width / 30}>
                {String.fromCharCode(65 + i)}
              </text>
            ))}
            {Array.from({ length: grid.down }, (_, i) => (
              <text key={i} x={4} y={(i + 0.55) * grid.on_piece * scale}>
                {i + 1}
              </text>
            ))}
          </g>
        </g>
      )}
    </Plan>
  );
}

/** What is printed: the grid on reference, plan or study, and a tracing at true size. */
export function LargeCard() {
  const { view } = useBench();
  const { squares, format, put, found } = useEnlarging();
  const query = (more: string) => `squares=${squares}&format=${format}&${more}`;
  const base = `/api/pieces/${view.id}/enlarging`;
  const paper = (href: string, text: string) => (
    <a className="act" href={href} target="_blank" rel="noreferrer">
      {text}
    </a>
  );
  return (
    <Card>
      <h2>Enlarging</h2>
      <NumberInput
        label="Squares along the longer side"
        value={squares}
        min={2}
        max={24}
        onChange={(n) => Number(n) >= 2 && Number(n) <= 24 && put("squares", String(n))}
      />
      <NativeSelect
        label="Paper"
        value={format}
        data={[
          { value: "a5", label: "A5" },
          { value: "a4", label: "A4" },
          { value: "a3", label: "A3" },
          { value: "letter", label: "Letter" },
        ]}
        onChange={(e) => put("paper", e.currentTarget.value)}
      />
      {found && <Note>{said(found.grid.words)}</Note>}
      <Section title="Under the grid">
        {view.piece.reference && <p>{paper(`${base}/grid.pdf?${query("under=reference")}`, "The reference")}</p>}
        <p>{paper(`${base}/grid.pdf?${query("under=plan")}`, "The plan")}</p>
        {view.piece.chosen_study !== null && view.piece.chosen_study !== undefined && (
          <p>{paper(`${base}/grid.pdf?${query("under=study")}`, "The chosen study")}</p>
        )}
      </Section>
      <Section title="Tracing at true size">
        {found?.pages ? (
          <>
            <Note>
              {found.pages} {found.pages === 1 ? "page" : "pages"}, joined cross on cross.
              {view.piece.intent.fit.edge ? " The deep edges are part of it." : ""}
            </Note>
            <p>{paper(`${base}/tracing.pdf?${query("from=outlines")}`, "Outlines at the chosen brush")}</p>
            {view.piece.reference && (
              <p>{paper(`${base}/tracing.pdf?${query("from=reference")}`, "The reference itself")}</p>
            )}
          </>
        ) : (
          <Note>It takes too many pages of this paper. Take larger paper, or the grid.</Note>
        )}
      </Section>
    </Card>
  );
}
