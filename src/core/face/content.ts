import { linesOn, saidIn, type ComposedLine, type Composition } from '@/core/card';
import { directionOf, type Language } from '@/core/language';
import { areasOf, labelFor } from '@/core/page';
import { shownValue } from '@/core/record';
import type { FaceContent, FaceLine } from './face';

/** What a picture elsewhere is known by: who it is, and no way to reach them, since whoever sees a link keeps its picture. */
export const INTRODUCTION = 'introduction';

/** Channels whose lines a face shows. */
export type FaceChannel = 'page' | 'print' | 'backdrop';

/** A number stays in one piece; what else has several lines becomes one. */
export function oneLine({ detail }: ComposedLine, language: Language): string {
  const shown = shownValue(detail, language);
  return detail.kind === 'phone' ? shown.replace(/ /g, '\u00a0') : shown.replace(/\n+/g, ', ');
}

/**
 * What a face of a card says in a language, from what stands on the page, or is ticked for paper or a backdrop. `reach` takes the lines with it, or leaves everything
 * but name, role and firm.
 */
export function faceContent(
  whole: Composition,
  language: Language,
  pictures: Pick<FaceContent, 'photo' | 'logo'>,
  reach: 'lines' | typeof INTRODUCTION,
  channel: FaceChannel = 'page',
): FaceContent {
  const areas = areasOf(saidIn(whole, language), channel);
  // On the page they stand beside the name; elsewhere is no room there.
  const pronouns = linesOn(saidIn(whole, language), channel).filter(
    ({ detail }) => channel !== 'page' && detail.kind === 'pronouns',
  );
  const lineOf = (line: ComposedLine): FaceLine => ({
    id: line.id,
    label: labelFor(line, language),
    value: oneLine(line, language),
    // What a number is for, its digits do not tell.
    named: line.detail.kind === 'phone' || line.detail.kind === 'licence' || line.detail.kind === 'own',
  });
  const reached = reach === 'lines';
  return {
    name: areas.name,
    role: areas.role.join(', '),
    firm: areas.firm.join(', '),
    alarm: reached && areas.alarm ? lineOf(areas.alarm) : null,
    lines: reached ? [...pronouns, ...areas.lines].map(lineOf) : [],
    photo: areas.photo && pictures.photo,
    logo: areas.logo && pictures.logo,
    toRight: directionOf(language) === 'rtl',
  };
}

/** Every text that a face says, in its order. */
export const wordsOnFace = ({ name, role, firm, alarm, lines }: FaceContent): string[] =>
  [
    ...[name, role, firm],
    ...[...(alarm ? [alarm] : []), ...lines].flatMap(({ label, value }) => [label, value]),
  ].filter(Boolean);
