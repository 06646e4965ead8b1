import { Parser } from 'htmlparser2';

/** What a page elsewhere that fetches a link finds to show (Open Graph, ogp.me; HTML `title` and `meta`); empty where there is nothing. */
export type SeenElsewhere = {
  title: string;
  description: string;
  image: string;
  imageAlt: string;
  address: string;
  /** Whether the page asks not to be listed. */
  hidden: boolean;
};

/** Reads what a page says of itself to other pages, by a parser that did not write it. */
export function seenElsewhere(html: string): SeenElsewhere {
  const said = new Map<string, string>();
  let titled: string | null = null;
  let title = '';
  const parser = new Parser(
    {
      onopentag(name, { property, name: meta, content, rel, href }) {
        const key = property ?? meta;
        if (name === 'meta' && key && content !== undefined && !said.has(key)) said.set(key, content);
        if (name === 'link' && rel === 'canonical' && href && !said.has('canonical')) said.set('canonical', href);
        if (name === 'title' && titled === null) titled = '';
      },
      ontext: (more) => (titled === '' ? (title += more) : undefined),
      onclosetag: (name) => (name === 'title' ? (titled = 'read') : undefined),
    },
    { decodeEntities: true },
  );
  parser.end(html);
  const first = (...keys: string[]) => keys.map((key) => said.get(key) ?? '').find(Boolean) ?? '';
  return {
    title: first('og:title') || title.trim(),
    description: first('og:description', 'description'),
    image: first('og:image'),
    imageAlt: first('og:image:alt'),
    address: first('og:url', 'canonical'),
    hidden: /noindex/i.test(first('robots')),
  };
}
