import { useEffect } from "react";

/** Takes in a picture that is pasted anywhere on the page. */
export function usePaste(takeIn: (file: File) => void) {
  useEffect(() => {
    const paste = (e: ClipboardEvent) => {
      const file = [...(e.clipboardData?.files ?? [])][0];
      if (file) takeIn(file);
    };
    window.addEventListener("paste", paste);
    return () => window.removeEventListener("paste", paste);
  }, [takeIn]);
}
