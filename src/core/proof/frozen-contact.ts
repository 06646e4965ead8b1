import type { Channel, Composition } from '@/core/card';
import { expectedOf, type Expected } from './expected';
import { compareWith, readByAnother, readByOurs, type Compared, type Found } from './read-contact';

/** What a frozen copy spares of a contact file. */
const SPARED = new Set(['prodid', 'uid', 'rev', 'source']);
/** What a MeCard says of each line that it has a field for, as it is; what else it holds is told where its form is chosen. */
const SAID = new Set(['tel', 'email', 'url']);

const linkTo = (link: string): Expected => ({
  ...{ title: link, name: 'url', text: link, types: '', pref: false, label: null },
});

/**
 * The proof of a contact that a frozen code or tag carries: the reader that is not ours must find the name, every line ticked for that channel and the link to
 * the living card, and nothing else. A MeCard, which it does not read, is read by ours: its numbers, mail addresses and links. Answers null where it
 * reads as no contact at all.
 */
export function proveFrozenContact(
  text: string,
  composition: Composition,
  {
    channel,
    link,
    version,
  }: { channel: Extract<Channel, 'code' | 'tag'>; link: string | null; version: '3.0' | '4.0' | 'MeCard' },
): Compared | null {
  const lines = composition.lines.filter(({ on }) => on.includes(channel));
  const written = version === 'MeCard' ? '3.0' : version;
  const context = { version: written, uid: '', revised: '1970-01-01T00:00:00Z', source: null, photo: null };
  const all = expectedOf({ ...composition, further: {} }, lines, context)
    .filter(({ name }) => !SPARED.has(name))
    .map((each) => ({ ...each, label: null }));
  const wanted = link ? [...all, linkTo(link)] : all;
  if (version !== 'MeCard') {
    const read = readByAnother(text);
    return typeof read === 'string' ? null : compareWith(read, wanted);
  }
  const read = readByOurs(text);
  if (typeof read === 'string') return null;
  const bare = <T extends Found | Expected>(each: T): T => ({ ...each, types: '', pref: false });
  return compareWith(
    read.filter(({ name }) => SAID.has(name)).map(bare),
    wanted.filter(({ name }) => SAID.has(name)).map(bare),
  );
}
