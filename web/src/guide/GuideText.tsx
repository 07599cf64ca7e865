import { useQuery } from "@tanstack/react-query";
import { lexer, type Token, type Tokens } from "marked";
import type { ReactNode } from "react";
import { Link } from "react-router";
import styles from "./GuideText.module.css";
import { type GuidePage, linkOf, pictureOf, textOf } from "./pages";

/** One page of the guide; inside a dialog without its pictures, its title one heading among others. */
export function GuideText({ page, inside = false }: { page: GuidePage; inside?: boolean }) {
  const text = useQuery({
    queryKey: ["guide", page],
    queryFn: () => textOf(page),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (text.isError) return <p>This page of the guide did not load. Reload the page.</p>;
  if (!text.data) return <p aria-busy="true">Loading the page …</p>;
  return (
    <article className={styles.text} data-inside={inside}>
      {drawn(lexer(text.data), inside)}
    </article>
  );
}

const drawn = (tokens: Token[] | undefined, inside: boolean): ReactNode[] =>
  // The text of a page never changes while it is shown: its pieces are told apart by their place.
  (tokens ?? []).map((t, at) => <Piece key={`${at}-${t.type}`} t={t} inside={inside} />);

/** One piece of a page: only what our pages use. */
function Piece({ t, inside }: { t: Token; inside: boolean }): ReactNode {
  const within = "tokens" in t ? drawn(t.tokens, inside) : null;
  switch (t.type) {
    case "heading": {
      const Heading = `h${t.depth + (inside ? 2 : 0)}` as "h1" | "h2" | "h3" | "h4";
      return <Heading>{within}</Heading>;
    }
    case "paragraph":
      return <p>{within}</p>;
    case "list": {
      const List = t.ordered ? "ol" : "ul";
      return (
        <List>
          {(t as Tokens.List).items.map((item) => (
            <li key={item.raw}>{drawn(item.tokens, inside)}</li>
          ))}
        </List>
      );
    }
    case "strong":
      return <b>{within}</b>;
    case "em":
      return <i>{within}</i>;
    case "codespan":
      return <code>{t.text}</code>;
    case "link":
      return <Link to={linkOf(t.href)}>{within}</Link>;
    case "image":
      return inside ? null : <img src={pictureOf(t.href)} alt={`The screen: ${t.text}`} loading="lazy" />;
    case "text":
      return within ?? unescaped(t.text);
    default:
      return null;
  }
}

const unescaped = (text: string) =>
  text.replace(
    /&(amp|lt|gt|quot|#39);/g,
    (_, name: string) => ({ amp: "&", lt: "<", gt: ">", quot: '"' })[name] ?? "'",
  );
