import { linesOn, type Block, type Channel, type ComposedLine, type Composition } from '@/core/card';
import { layoutOf, type Area } from '@/core/look';
import { shownValue, writtenName, type Detail, type NameKind } from '@/core/record';
import { inBlocks } from './blocks';

/** What stands in each area of a card, for the page and for every face of it: lines ticked for one channel and no other. */
export type CardAreas = {
  name: string;
  /** What it stands for where that is no person. */
  kind?: NameKind;
  pronouns: string[];
  role: string[];
  firm: string[];
  photo: ComposedLine | null;
  logo: ComposedLine | null;
  /** The first number for emergencies. */
  alarm: ComposedLine | null;
  /** What the list shows: neither in the head nor in a block. */
  lines: ComposedLine[];
  /** The block that opens first, above everything; and the one that the layout raises. */
  first: Block | null;
  lead: Block | null;
  before: Block[];
  after: Block[];
};

const HEAD_KINDS = new Set<Detail['kind']>(['photo', 'logo', 'title', 'role', 'organisation', 'pronouns']);

/** Sorts a composition, as it is said in one language, into areas. */
export function areasOf(composition: Composition, channel: Channel = 'page'): CardAreas {
  const { blocks, opens, look } = composition;
  const lines = linesOn(composition, channel);
  const of = (kind: Detail['kind']) => lines.filter(({ detail }) => detail.kind === kind);
  const texts = (kind: Detail['kind']) => of(kind).map(({ detail }) => shownValue(detail));
  const alarm =
    lines.find(({ detail }) => detail.kind === 'phone' && detail.uses.some((use) => use === 'emergency')) ?? null;
  const { lead: kind } = layoutOf(look.layout);
  // Nobody is asked for anything before they were given something, and buttons stand below the head.
  const mayOpen = ({ kind: of }: Block) => of !== 'reply form' && of !== 'action bar';
  const first = (opens.first === 'block' && blocks.find((block) => block.id === opens.block && mayOpen(block))) || null;
  const lead = blocks.find((block) => block.kind === kind && block !== first) ?? null;
  const others = blocks.filter((block) => block !== first && block !== lead && block.kind !== 'action bar');
  const taken = channel === 'page' ? inBlocks(blocks, lines) : new Set<string>();
  return {
    name: writtenName(composition.name),
    kind: composition.name.kind,
    pronouns: texts('pronouns'),
    role: [...texts('title'), ...texts('role')],
    firm: texts('organisation'),
    photo: of('photo')[0] ?? null,
    logo: of('logo')[0] ?? null,
    alarm,
    lines: lines.filter((line) => !HEAD_KINDS.has(line.detail.kind) && !taken.has(line.id) && line !== alarm),
    first,
    lead,
    before: others.filter(({ before }) => before),
    after: others.filter(({ before }) => !before),
  };
}

/** The areas that such a card fills. */
export function filledAreas(areas: CardAreas, shown: { photo: boolean; logo: boolean }): Set<Area> {
  const filled: [Area, boolean][] = [
    ['photo', areas.photo !== null && shown.photo],
    ['logo', areas.logo !== null && shown.logo],
    ['name', true],
    ['role', areas.role.length > 0],
    ['firm', areas.firm.length > 0],
    ['alarm', areas.alarm !== null],
    ['lead', areas.lead !== null],
    ['acts', true],
    ['lines', areas.lines.length + areas.before.length > 0],
    ['rest', areas.after.length > 0],
  ];
  return new Set(filled.flatMap(([area, is]) => (is ? area : [])));
}
