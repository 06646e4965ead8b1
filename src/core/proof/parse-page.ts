import { Parser } from 'htmlparser2';
import { createPageReader, type ReadPage } from './read-page';

/** Reads a page as it is served, by a parser that is not ours. */
export function readPage(html: string): ReadPage {
  const reader = createPageReader();
  const parser = new Parser(
    { onopentag: reader.open, ontext: reader.text, onclosetag: reader.close, oncomment: reader.comment },
    { decodeEntities: true },
  );
  parser.end(html);
  return reader.end();
}
