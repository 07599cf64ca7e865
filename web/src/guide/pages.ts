/** The pages of the guide, as they stand in docs/guide; each is fetched when it is opened. */
const texts = import.meta.glob<string>("../../../docs/guide/*.md", { query: "?raw", import: "default" });
const pictures = import.meta.glob<string>("../../../docs/screenshots/*.png", {
  query: "?url",
  import: "default",
  eager: true,
});

/** Pages in their order, by the name in their address. */
export const PAGES = [
  ["start", "README", "The first ten minutes"],
  ["brief", "1-brief", "Brief"],
  ["subject", "2-subject", "Subject"],
  ["light", "3-light", "Light"],
  ["lean-set", "4-lean-set", "Lean set"],
  ["mixes", "5-mixes", "Mixes"],
  ["studies", "6-studies", "Studies"],
  ["piece", "7-piece", "Piece"],
  ["box", "8-box", "Box"],
  ["journal", "9-journal", "Journal"],
  ["drills", "10-drills", "Drills"],
  ["trust", "trust", "How far to trust this"],
] as const;

export type GuidePage = (typeof PAGES)[number][0];

/** The text of a page. */
export const textOf = (page: GuidePage): Promise<string> => {
  const file = PAGES.find(([name]) => name === page)?.[1];
  return texts[`../../../docs/guide/${file}.md`]();
};

/** Where a picture named in a page is served from. */
export const pictureOf = (src: string): string | undefined =>
  pictures[`../../../docs/screenshots/${src.split("/").pop()}`];

/** Where a link from page to page leads inside the program. */
export const linkOf = (href: string): string => {
  const file = href.replace(/\.md$/, "");
  const page = PAGES.find(([, name]) => name === file)?.[0];
  return page ? `/guide/${page}` : href;
};
