import { useEffect } from "react";

/** How often it is tried to send what waits. */
const TRIED = 15_000;

/** Tries to send what waits on this device: now and then, and as soon as there is a network again. `send` must stay the same from draw to draw. */
export function useSending(waits: boolean, send: () => Promise<unknown>) {
  useEffect(() => {
    if (!waits) return;
    const timer = setInterval(send, TRIED);
    window.addEventListener("online", send);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", send);
    };
  }, [waits, send]);
}
