import sharp from 'sharp';
import { NO_HOUSE, type HouseStyle } from '@/core/house';
import { FIRST_LOOK, LOOK_PARTS, PALETTES, type LayoutName, type Look } from '@/core/look';
import type { Picture } from '@/core/record';
import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { saveCard } from '@/server/services/cards/edit-card';
import { addBlockPicture } from '@/server/services/media/add-picture';
import { FIRST_SIGNATURE } from '@/core/signature';
import { saveHouse } from '@/server/services/house/house-style';
import { keepLook } from '@/server/services/house/looks';
import { openCard } from '@/server/services/cards/open-card';

/** Dresses a card; what is not said stays. */
export async function dress(actor: Actor, cardId: string, look: Partial<Look>): Promise<void> {
  const { version, lines, audience, look: now } = await openCard(actor, cardId);
  const input = { baseVersion: version, lines, audience, look: { ...now, ...look } };
  await saveCard(actor, cardId, input, systemClock);
}

/** Who of Tarnhope has which layout; the rest keep the strip. */
export const LAYOUT_OF: Record<string, LayoutName> = {
  Aldercott: 'cairn',
  Hathersage: 'furrow',
  Brockbank: 'fold',
  Quern: 'lapwing',
  Tyle: 'crag',
};

/** All of the house style but its layout. */
export const OWN_LAYOUT = LOOK_PARTS.filter((part) => part !== 'layout');

/** A cabin on its rope, drawn. */
async function logo(actor: Actor, ink: string, cabin: string): Promise<Picture> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="720" height="240"><path d="M10 70L710 30" stroke="${ink}" stroke-width="14"/><path d="M180 62v44" stroke="${ink}" stroke-width="14"/><rect x="90" y="104" width="180" height="116" rx="22" fill="${cabin}"/><path d="M340 220V120h60v100M440 220v-68h60v68M540 220V96h60v124M640 220v-50h50v50" fill="none" stroke="${ink}" stroke-width="20"/></svg>`;
  const png = await sharp(Buffer.from(svg)).png().toBuffer();
  const { picture: hash, width, height } = await addBlockPicture(actor, png, systemClock);
  return { hash, width, height };
}

const dayFrom = (days: number): string => new Date(systemClock.now() + days * 86_400_000).toISOString().slice(0, 10);

/** Tarnhope's house style: the livery of its cabins, locked; a line for all; layouts for people on the line and in the office. */
export async function addHouseStyle(actor: Actor): Promise<void> {
  const common = { preferred: false };
  const style: HouseStyle = {
    ...NO_HOUSE,
    look: {
      ...FIRST_LOOK,
      palette: { ...PALETTES.tarn, band: '#123B4F', act: '#B3421B' },
      title: 'barlow-condensed',
      text: 'work-sans',
      ground: { kind: 'gradient', to: '#1E5A63', angle: 165 },
    },
    layouts: ['trod', 'cairn', 'furrow', 'fold', 'lapwing', 'crag', 'skylark'],
    logos: { onLight: await logo(actor, '#123B4F', '#B3421B'), onDark: await logo(actor, '#E8F3FA', '#F0B08A') },
    lines: [
      {
        id: 'house-motto',
        label: 'Since 1931',
        detail: { kind: 'own', id: 'house-motto', label: 'Since 1931', ...common, text: 'Up, and down again, safely.' },
        page: true,
        file: false,
      },
    ],
    codes: { ink: '#123B4F', ground: '#FFFFFF' },
    signature: {
      options: FIRST_SIGNATURE,
      legal: {
        any: 'Tarnhope Cableways Ltd · registered in England under 07946000 · Lower Station Yard, Tarnhope',
        de: 'Tarnhope Cableways Ltd · eingetragen in England unter 07946000 · Lower Station Yard, Tarnhope',
      },
      disclaimer: {},
      strips: [
        {
          ...{ id: 'winter-timetable', text: 'Winter timetable: last cabin down at 17:40', picture: null },
          ...{ link: 'https://tarnhope.example/timetable', starts: dayFrom(-3), ends: dayFrom(40) },
        },
      ],
    },
    owned: {
      name: 'As it is in your contract; tell Maud when it changes.',
      title: 'Comes from the personnel system.',
      organisation: 'Comes from the personnel system.',
    },
    locks: {
      palette: 'The colours are those of the cabins: people know us by them.',
      type: 'One voice on every sign, door and card.',
      logo: 'The mark is registered in this form.',
    },
  };
  await saveHouse(actor, { baseNumber: 0, style, note: 'Livery of the new cabins' }, systemClock);
}

/** Odile's three cards, each dressed for whom it is for, and the look that she uses again. */
export async function dressOdile(
  actor: Actor,
  { clients, festivals, neighbours }: Record<'clients' | 'festivals' | 'neighbours', string>,
): Promise<void> {
  const heather = { palette: PALETTES.ling, title: 'fraunces', text: 'lora', corners: 'round' } as const;
  await dress(actor, clients, { ...heather, layout: 'bilberry' });
  await dress(actor, festivals, {
    layout: 'crag',
    palette: PALETTES.gorse,
    title: 'bitter',
    text: 'atkinson',
    ground: { kind: 'pattern', motif: 'furrows', to: '#F6DC8C' },
  });
  await dress(actor, neighbours, { layout: 'bothy', palette: PALETTES.lichen, title: 'lora', text: 'lora' });
  await keepLook(actor, { name: 'Heather', look: { ...FIRST_LOOK, ...heather, layout: 'bilberry' } }, systemClock);
}
