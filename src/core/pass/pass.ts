import { linesOn, saidIn, type ComposedLine, type Composition } from '@/core/card';
import type { Language } from '@/core/language';
import { coloursOf } from '@/core/look';
import { labelFor } from '@/core/page';
import { shownValue, writtenName, type Detail } from '@/core/record';

/** A field of a pass: its key within it, the words above the value, and the value. */
export type PassField = { key: string; label: string; value: string };

/** What a pass says: who it is on the front, everything else on its back. */
export type PassFields = { primary: PassField[]; secondary: PassField[]; back: PassField[] };

/** Kinds that stand on the front, under the name. */
const IN_FRONT: Detail['kind'][] = ['title', 'organisation'];
/** The front of a pass has one line for each; what is longer, a phone cuts short (common practice, no published source). */
const FRONT_LETTERS = 28;

const PICTURES = new Set<Detail['kind']>(['photo', 'logo']);

/**
 * The fields of a pass in a language: the name and the first title and firm on the front, the other lines that are ticked for it on the back, and
 * again in full what the front may cut short. Pictures are none.
 */
export function passFields(whole: Composition, language: Language): PassFields {
  const said = saidIn(whole, language);
  const lines = linesOn(said, 'pass').filter(({ detail }) => !PICTURES.has(detail.kind));
  const field = (line: ComposedLine): PassField => ({
    ...{ key: line.id, label: labelFor(line, language) },
    value: shownValue(line.detail, language),
  });
  const front = IN_FRONT.flatMap((kind) => lines.find(({ detail }) => detail.kind === kind) ?? []);
  const name = { key: 'name', label: '', value: writtenName(said.name) };
  const isLong = ({ value }: PassField) => Array.from(value).length > FRONT_LETTERS || value.includes('\n');
  const inFull = [name, ...front.map(field)].filter(isLong).map((each) => ({ ...each, key: `${each.key}-whole` }));
  return {
    primary: [name],
    secondary: front.map(field),
    back: [...inFull, ...lines.filter((line) => !front.includes(line)).map(field)],
  };
}

/** Every text of a pass, label and value. */
export const textsOfPass = ({ primary, secondary, back }: PassFields): string[] =>
  [...primary, ...secondary, ...back].flatMap(({ label, value }) => [label, value]).filter(Boolean);

export type PassOrder = {
  composition: Composition;
  language: Language;
  /** Identifies the kind of pass and who signs it, as the certificate says. */
  passType: string;
  team: string;
  /** Who gives it out. */
  organisation: string;
  /** Tells this pass from others of its kind. */
  serial: string;
  /** The living link, which its code holds. */
  link: string;
  /** Where the phone asks for what is new, and what it says there; at least 16 letters. */
  service: string;
  token: string;
  /** What it is called by a voice: "Card of …". */
  description: string;
  /** Whether the card behind it is no longer out. */
  voided: boolean;
};

const rgb = (hex: string): string =>
  `rgb(${[1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)).join(', ')})`;

/** Letters of ISO 8859-1, in which a code's text is written where it can be. */
const LATIN_1 = /^[\u0000-\u00ff]*$/;

/** The `pass.json` of a card: the generic style of the package format that phones' own stores of passes open (its published reference, format version 1). */
export function writePass(order: PassOrder): Record<string, unknown> {
  const { composition, language, link, token, service, voided } = order;
  const colours = coloursOf(composition.look.palette);
  const { primary, secondary, back } = passFields(composition, language);
  const code = {
    ...{ format: 'PKBarcodeFormatQR', message: link },
    messageEncoding: LATIN_1.test(link) ? 'iso-8859-1' : 'utf-8',
  };
  return {
    ...{ formatVersion: 1, passTypeIdentifier: order.passType, teamIdentifier: order.team },
    ...{ serialNumber: order.serial, organizationName: order.organisation, description: order.description },
    ...{ webServiceURL: service, authenticationToken: token },
    ...(voided ? { voided } : { barcodes: [code], barcode: code }),
    backgroundColor: rgb(colours.band),
    foregroundColor: rgb(colours.onBand),
    labelColor: rgb(colours.onBand),
    generic: { primaryFields: primary, secondaryFields: secondary, auxiliaryFields: [], backFields: back },
  };
}
