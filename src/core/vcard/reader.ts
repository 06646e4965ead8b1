import { LIMITS } from '@/core/limits';
import { createDecoder } from './decode';
import { readJcard } from './jcard';
import { readMeCards } from './mecard';
import { readLine } from './read-line';
import { Unfolder, type LogicalLine } from './lines';
import { isFrame, type ContactCard, type ReadContact, type Warning, type VcardVersion } from './property';

/** More than this of one contact or between two contacts is not told one by one. */
const MOST_WARNINGS = 100;

export type ContactReader = {
  /** The contacts that came to their end within these bytes. */
  push: (bytes: Uint8Array) => ReadContact[];
  /** What is left when the file has ended. */
  end: () => ReadContact[];
};

/**
 * Reads contacts as a stream of bytes: vCard 2.1, 3.0 and 4.0 (several cards a file, in any charset), MeCard, and jCard
 * (RFC 7095), which is held whole. Never throws: what cannot be understood is told with its line, and the rest is read.
 */
export function createContactReader(): ContactReader {
  const decoder = createDecoder();
  let reader: { push: (text: string) => ReadContact[]; end: () => ReadContact[] } | null = null;
  let head = '';
  let before = 0;
  const read = (text: string): ReadContact[] => {
    if (reader) return reader.push(text);
    head += text;
    // What stands empty before the first letter is kept as line ends alone, so that it is looked at once.
    const start = head.search(/[^\ufeff\s]/);
    if (start < 0 || head.length - start < 7) {
      if (start < 0) {
        before += head.match(/\n/g)?.length ?? 0;
        head = '';
      }
      return [];
    }
    reader = readerFor(head.slice(start, start + 7));
    return reader.push('\n'.repeat(before) + head);
  };
  return {
    push: (bytes) => read(decoder.push(bytes)),
    end: () => {
      const last = read(decoder.end());
      reader ??= cardReader();
      if (last.length === 0 && head.length < 7) last.push(...reader.push(head));
      return [...last, ...reader.end()];
    },
  };
}

/** All contacts of a text, for short files. */
export function readContacts(text: string): ReadContact[] {
  const reader = createContactReader();
  return [...reader.push(new TextEncoder().encode(text)), ...reader.end()];
}

const readerFor = (first: string) =>
  first.startsWith('[') ? whole(readJcard) : /^mecard:/i.test(first) ? whole(readMeCards) : cardReader();

/** A form that is read in one piece. */
function whole(read: (text: string) => ReadContact[]) {
  const parts: string[] = [];
  return {
    push: (text: string): ReadContact[] => {
      parts.push(text);
      return [];
    },
    end: () => read(parts.join('').replace(/^\ufeff/, '')),
  };
}

const BEGIN = /^\s*BEGIN\s*:\s*VCARD\s*$/i;
const END = /^\s*END\s*:\s*VCARD\s*$/i;
const VERSION = /^\s*VERSION[^:]*:\s*(\S*)\s*$/i;

const CONTROLS = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/;

/** `full`: it has as many properties as it may have. */
type Open = { card: ContactCard; warnings: Warning[]; knowsVersion: boolean; agent: boolean; full: boolean };

function cardReader() {
  let done: ReadContact[] = [];
  const open: Open[] = [];
  let outside: Warning[] = [];
  let version: VcardVersion = '3.0';
  /** Whether any control character was met in the file: most have none, and their lines need no look. */
  let controls = false;

  const tell = (code: Warning['code'], line: number) => {
    const warnings = open.at(-1)?.warnings ?? outside;
    if (warnings.length < MOST_WARNINGS) warnings.push({ code, line });
  };
  const tellOutside = () => {
    if (outside.length > 0) done.push({ card: null, warnings: outside });
    outside = [];
  };
  const close = () => {
    const { card, warnings, knowsVersion } = open.pop()!;
    if (!knowsVersion && warnings.length < MOST_WARNINGS) warnings.push({ code: 'VERSION_UNKNOWN', line: card.line });
    done.push(
      card.properties.length > 0
        ? { card, warnings }
        : { card: null, warnings: [...warnings, { code: 'CARD_EMPTY', line: card.line }] },
    );
  };
  const begin = (line: number) => {
    const outer = open.at(-1);
    // A card within AGENT is a person of their own (2.1 and RFC 2426 3.5.4); otherwise the one before never ended.
    if (outer?.agent) tell('NESTED_CARD', line);
    else if (outer) {
      tell('END_MISSING', line);
      close();
    }
    tellOutside();
    open.push({
      card: { version: '3.0', properties: [], line },
      warnings: [],
      knowsVersion: false,
      agent: false,
      full: false,
    });
  };
  const take = ({ text, line, badly }: LogicalLine) => {
    // BEGIN, END and VERSION are short, and few lines start like them.
    if (text.length < 40 && /^[\sBEV]/i.test(text)) {
      if (BEGIN.test(text)) return begin(line);
      if (END.test(text)) return open.length > 0 ? close() : tell('END_WITHOUT_BEGIN', line);
      const said = VERSION.exec(text)?.[1];
      const inner = open.at(-1);
      if (said !== undefined && inner) {
        inner.knowsVersion = said === '2.1' || said === '3.0' || said === '4.0';
        if (inner.knowsVersion) inner.card.version = version = said as VcardVersion;
        return;
      }
    }
    const inner = open.at(-1);
    if (!inner) {
      // Once for each stretch: a file that is no contact file at all would tell of every line.
      if (outside.at(-1)?.code !== 'OUTSIDE_A_CARD') tell('OUTSIDE_A_CARD', line);
      return;
    }
    if (badly) tell('BADLY_FOLDED', line);
    if (controls && CONTROLS.test(text)) tell('CONTROL_CHARACTERS', line);
    if (inner.full) return;
    const read = readLine(text, line, tell, inner.card.version as VcardVersion);
    if (isFrame(read.name)) return tell('LINE_UNREADABLE', line);
    if (inner.card.properties.length >= LIMITS.contactProperties) {
      if (!inner.full) tell('TOO_MANY_PROPERTIES', line);
      inner.full = true;
      return;
    }
    inner.agent = read.name === 'agent' && read.values[0] === '';
    if (!inner.agent) inner.card.properties.push(read);
  };
  const unfolder = new Unfolder(take, () => version === '2.1');
  const taken = () => {
    const contacts = done;
    done = [];
    return contacts;
  };
  return {
    push: (text: string) => {
      controls ||= CONTROLS.test(text);
      unfolder.push(text);
      return taken();
    },
    end: () => {
      unfolder.end();
      while (open.length > 0) {
        tell('END_MISSING', open.at(-1)!.card.properties.at(-1)?.line ?? open.at(-1)!.card.line);
        close();
      }
      tellOutside();
      return taken();
    },
  };
}
