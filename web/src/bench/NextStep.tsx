import { useLocation, useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { Act } from "../kit/Act";
import { said } from "../room/figures";
import { useBench } from "./context";
import styles from "./Tray.module.css";

/** Kinds of study made when nobody chose others: those a piece usually gets first. */
const USUAL: Schemas["StudyKind"][] = [];

/** What to do next, said with its reason and done with one press; in short where there is little room. */
export function NextStep({ short }: { short: boolean }) {
  const { view, work } = useBench();
  const station = useLocation().pathname.split("/").pop();
  const navigate = useNavigate();
  const { next } = view.derived;
  // At the easel what is next stands there.
  if (!next || work.job || (next.act === "work-on" && station === "piece")) return null;
  const go = (station: string) => navigate(`/pieces/${view.id}/${station}`);
  const DO: Record<Schemas["NextAct"], () => void> = {
    "give-picture": () => go("subject"),
    "begin-box": () => go("lean-set"),
    "fit-values": () => go("light?fit=1"),
    "find-set": () => {
      go("lean-set");
      work.search();
    },
    "plan-values": () => go("subject"),
    "make-studies": () => {
      go("studies");
      // Of a drawing the server makes all nine.
      work.makeStudies(view.piece.reference?.lines ? [] : USUAL);
    },
    "print-sheet": () => window.open(`/api/pieces/${view.id}/sheet.pdf`, "_blank"),
    "work-on": () => go("piece"),
  };
  return (
    <div className={styles.next}>
      <Act main onDo={DO[next.act]}>
        Next: {next.what.toLowerCase()}
      </Act>
      {!short && <p>{said(next.why)}</p>}
    </div>
  );
}
