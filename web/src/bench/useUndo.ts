import { useCallback } from "react";
import { useBench } from "./context";
import { useNotice } from "./notice";

/** Undo and redo, with a line that says what was taken back or done again. Refusals are said by the change itself. */
export function useUndo() {
  const { view, changes } = useBench();
  const { say } = useNotice();
  const undo = useCallback(() => {
    const what = view.undo;
    if (what) changes.undo().then((done) => done && say(`Undone: ${what}.`));
    else say("There is nothing left to undo.");
  }, [view.undo, changes, say]);
  const redo = useCallback(() => {
    const what = view.redo;
    if (what) changes.redo().then((done) => done && say(`Done again: ${what}.`));
    else say("There is nothing left to redo.");
  }, [view.redo, changes, say]);
  return { undo, redo };
}
