import { parsed } from './parsed';
import { createPageReader, type ReadPage } from '@/core/proof/read-page';

/** Reads a page by the browser's own parser, which is at hand before anything else is loaded. */
export function readHere(html: string): ReadPage {
  const reader = createPageReader();
  const walk = (node: Node) => {
    if (node instanceof Element)
      reader.open(
        node.localName,
        Object.fromEntries(
          [...node.attributes]
            .filter(({ name }) => name !== 'nonce')
            .map(({ name, value }) => [name.toLowerCase(), value]),
        ),
      );
    else if (node.nodeType === Node.COMMENT_NODE) reader.comment(node.nodeValue ?? '');
    else if (node.nodeType === Node.TEXT_NODE) reader.text(node.nodeValue ?? '');
    const within = node instanceof HTMLTemplateElement ? node.content : node;
    within.childNodes.forEach(walk);
    if (node instanceof Element) reader.close();
  };
  walk(parsed(html).documentElement);
  return reader.end();
}
