import { type CSSProperties, cloneElement, type ReactElement, useEffect, useId, useRef, useState } from "react";
import { createPortal } from "react-dom";
import styles from "./kit.module.css";

/** Milliseconds something is pointed at before it says more. */
const WAIT = 350;
/** Pixels between what is pointed at and what is said of it, and to the edge of the page. */
const AWAY = 6;

/** Where it is said: below, or above what stands in the lower half; never beyond the edge at the right. */
function beside(r: DOMRect): CSSProperties {
  const below = r.top < window.innerHeight / 2;
  const right = r.left > window.innerWidth / 2;
  return {
    ...(below ? { top: r.bottom + AWAY } : { bottom: window.innerHeight - r.top + AWAY }),
    ...(right ? { right: Math.max(AWAY, window.innerWidth - r.right) } : { left: Math.max(AWAY, r.left) }),
  };
}

/** Says more of the one thing it holds when that is pointed at for a moment, or reached by key. */
export function Hint({ says, children }: { says: string; children: ReactElement<{ "aria-describedby"?: string }> }) {
  const id = useId();
  const around = useRef<HTMLSpanElement>(null);
  const [place, setPlace] = useState<CSSProperties | null>(null);
  const waiting = useRef<number>(undefined);
  useEffect(() => () => window.clearTimeout(waiting.current), []);
  const show = () => {
    const of = around.current?.firstElementChild;
    // Above the whole entry of a list: what is said must not lie on the colour it speaks of.
    if (of) setPlace(beside((of.closest("li") ?? of).getBoundingClientRect()));
  };
  const hide = () => {
    window.clearTimeout(waiting.current);
    setPlace(null);
  };
  return (
    <span
      ref={around}
      className={styles.hinted}
      onPointerEnter={() => {
        waiting.current = window.setTimeout(show, WAIT);
      }}
      onPointerLeave={hide}
      onFocus={(e) => e.target.matches(":focus-visible") && show()}
      onBlur={hide}
      onKeyDown={(e) => e.key === "Escape" && hide()}
    >
      {cloneElement(children, { "aria-describedby": id })}
      <span id={id} hidden>
        {says}
      </span>
      {place &&
        createPortal(
          <span className={styles.hint} style={place} aria-hidden>
            {says}
          </span>,
          document.body,
        )}
    </span>
  );
}
