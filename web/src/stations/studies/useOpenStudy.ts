import { useSearchParams } from "react-router";
import { useBench } from "../../bench/context";

/** The study the address opens, and how to open another or lay all of them side by side. */
export function useOpenStudy() {
  const { view } = useBench();
  const [search, setSearch] = useSearchParams();
  const open = view.piece.studies.find((s) => String(s.number) === search.get("study")) ?? null;
  const select = (study: number | null) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (study === null) next.delete("study");
        else next.set("study", String(study));
        return next;
      },
      { replace: true },
    );
  return { open, select };
}
