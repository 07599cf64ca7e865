/** Regions where printers hold Letter (CLDR, measurement and paper data). */
const LETTER = "BZ CA CL CO CR GT MX NI PA PH PR SV US VE".split(" ");

/** The paper that is usual where the reader is. */
export const paperHere = (): "letter" | "a4" =>
  LETTER.includes(new Intl.Locale(navigator.language).maximize().region ?? "") ? "letter" : "a4";
