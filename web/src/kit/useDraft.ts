import { useState } from "react";

/**
 * The content of a field: a draft while it is edited, the state of the server at all other times, so that undo and other windows reach the field.
 * `keep` is called when the field is left with something else in it; the draft stays until it has answered.
 */
export function useDraft<T>(kept: T, keep: (draft: T) => unknown) {
  const [draft, setDraft] = useState<{ text: T } | null>(null);
  const leave = async () => {
    if (!draft) return;
    try {
      if (draft.text !== kept) await keep(draft.text);
    } finally {
      // Words typed since then are a draft of their own.
      setDraft((now) => (now === draft ? null : now));
    }
  };
  return { shown: draft ? draft.text : kept, edit: (text: T) => setDraft({ text }), leave };
}
