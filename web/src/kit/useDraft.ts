import { useState } from "react";

/**
 * What a field shows: a draft while it is edited, what the server keeps at all other times, so that undo and other windows reach the field.
 * `keep` is called when the field is left with something else in it; the draft stays until it has answered.
 */
export function useDraft<T>(kept: T, keep: (draft: T) => unknown) {
  const [draft, setDraft] = useState<{ text: T } | null>(null);
  const leave = async () => {
    if (!draft) return;
    try {
      if (draft.text !== kept) await keep(draft.text);
    } finally {
      // What was typed since then is a draft of its own.
      setDraft((now) => (now === draft ? null : now));
    }
  };
  return { shown: draft ? draft.text : kept, edit: (text: T) => setDraft({ text }), leave };
}
