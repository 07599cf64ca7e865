/** How the reader's place sets decimals off: the language is the program's, the numbers are the reader's. */
export const MARK =
  new Intl.NumberFormat(navigator.language).formatToParts(0.5).find((p) => p.type === "decimal")?.value ?? ".";

/** A number with so many decimals, written as it is where the reader is. */
export const figure = (n: number, digits: number) => n.toFixed(digits).replace(".", MARK);

/** A sentence of the program with its numbers written as they are where the reader is. */
export const said = (sentence: string) => (MARK === "." ? sentence : sentence.replace(/(\d)\.(?=\d)/g, `$1${MARK}`));

/** What was typed as one number, with the reader's mark or a point; not a number when nothing was. */
export const typedNumber = (text: string) => (text.trim() === "" ? Number.NaN : Number(text.replace(MARK, ".")));

/** Numbers typed side by side: spaces and semicolons part them, commas too where they do not set decimals off. */
export const typedNumbers = (text: string) =>
  text
    .split(MARK === "," ? /[\s;]+/ : /[\s,;]+/)
    .filter(Boolean)
    .map(typedNumber);
