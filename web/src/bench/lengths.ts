import type { Schemas } from "../api/client";
import { said } from "../room/figures";

const MM: Record<Schemas["Units"], number> = { cm: 10, inch: 25.4 };

/** A length for the screen, in the units of the piece. */
export const shown = (mm: number, units: Schemas["Units"]) => Math.round((mm / MM[units]) * 10) / 10;
export const inMm = (n: number, units: Schemas["Units"]) => n * MM[units];
export const unitWord = (units: Schemas["Units"]) => (units === "cm" ? "cm" : "inches");

/** The same as it is written where the reader is. */
export const written = (mm: number, units: Schemas["Units"]) => said(String(shown(mm, units)));
