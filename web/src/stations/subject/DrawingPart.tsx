import { useQuery } from "@tanstack/react-query";
import { answer, api } from "../../api/client";
import { capital, useBench } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Acts, Section } from "../../kit/Section";
import styles from "./Drawing.module.css";

/** A drawing: how many of its shapes have a colour, and three plans of their values to choose from. */
export function DrawingPart() {
  const { view, changes } = useBench();
  const drawing = useQuery({
    queryKey: ["drawing", view.id, view.revision],
    queryFn: () => answer(api.GET("/api/pieces/{id}/drawing", { params: { path: { id: view.id } } })),
    placeholderData: (old) => old,
  });
  const d = drawing.data;
  const open = view.piece.zones.filter((z) => z.open).length;
  return (
    <Section title="A drawing in lines">
      <p>
        {view.piece.zones.length - open} of {view.piece.zones.length} shapes coloured.
        {d && d.alike.length > 0 && ` ${d.alike.length} pairs mirror each other.`}
      </p>
      {d && d.plans.length > 0 && (
        <>
          <h3 className={styles.title}>Plan the values</h3>
          <div className={styles.plans}>
            {d.plans.map((p) => (
              <button
                key={p.number}
                type="button"
                className={styles.plan}
                onClick={() => changes.request({ do: "plan-values", plan: p.number, keep: [] })}
              >
                <img
                  src={`/api/pieces/${view.id}/drawing/view?plan=${p.number}&of=${view.piece.reference?.digest.slice(0, 8)}${view.piece.paint_box ?? ""}`}
                  alt=""
                />
                <span>{capital(p.words)}</span>
              </button>
            ))}
          </div>
        </>
      )}
      <Acts>
        <Act onDo={() => changes.fromPicture()}>Read it as a picture</Act>
      </Acts>
    </Section>
  );
}
