import { useSearchParams } from "react-router";
import { type AtTheEasel, keyOf, sameTask, type TaskId, type TaskLine } from "../../../api/useEasel";
import { useSelection } from "../../../bench/context";

/** The task looked at: the one chosen on the strip, or what comes next. Choosing one chooses its zone. */
export function useTask(at: AtTheEasel): {
  task: TaskLine | null;
  isNext: boolean;
  choose: (t: TaskId | null) => void;
} {
  const [search, setSearch] = useSearchParams();
  const { zone } = useSelection();
  const asked = search.get("task");
  const chosen = at.tasks.find((t) => keyOf(t.id) === asked && (zone === null || (t.id.zone ?? zone) === zone));
  const ofZone = zone === null ? undefined : at.tasks.find((t) => t.id.zone === zone && !t.done);
  const next = at.tasks.find((t) => sameTask(t.id, at.next)) ?? null;
  const choose = (t: TaskId | null) =>
    setSearch(
      (old) => {
        const params = new URLSearchParams(old);
        if (t) params.set("task", keyOf(t));
        else params.delete("task");
        if (t?.zone) params.set("zone", String(t.zone));
        else params.delete("zone");
        return params;
      },
      { replace: true },
    );
  const task = chosen ?? ofZone ?? next;
  return { task, isNext: !!task && sameTask(task.id, at.next), choose };
}
