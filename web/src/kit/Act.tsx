import type { ReactNode } from "react";

/** A button that does something; the main one is what to do next. */
export function Act({
  children,
  onDo,
  main,
  pressed,
  disabled,
  submit,
  label,
}: {
  children: ReactNode;
  onDo?: () => void;
  main?: boolean;
  pressed?: boolean;
  disabled?: boolean;
  /** It sends the form it stands in. */
  submit?: boolean;
  /** Said to screen readers instead of what is written. */
  label?: string;
}) {
  return (
    <button
      type={submit ? "submit" : "button"}
      className={main ? "act main" : "act"}
      aria-pressed={pressed}
      aria-label={label}
      disabled={disabled}
      onClick={onDo}
    >
      {children}
    </button>
  );
}
