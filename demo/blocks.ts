import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { freshBlock, type Block, type BlockKind, type Item } from '@/core/card';
import type { Picture } from '@/core/record';
import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { saveCard } from '@/server/services/cards/edit-card';
import { addBlockPicture } from '@/server/services/media/add-picture';
import { addCaptions, addFilm } from '@/server/services/media/films';
import { openCard } from '@/server/services/cards/open-card';
import { drawCover } from './covers';
import { drawScenery } from './scenery';

const MEDIA = path.join(import.meta.dirname, 'media');

/** Ids that are the same at each loading. */
const ids = (prefix: string) => {
  let at = 0;
  return () => `${prefix}${(at += 1)}`;
};

async function pictureOf(actor: Actor, drawn: Promise<Buffer>): Promise<Picture> {
  const { picture: hash, width, height } = await addBlockPicture(actor, await drawn, systemClock);
  return { hash, width, height };
}
const scenery = (actor: Actor, seed: number, high: 900 | 675 = 900) => pictureOf(actor, drawScenery(seed, high));

const item = (id: string, part: Partial<Item>): Item => ({
  id,
  picture: null,
  alt: '',
  title: '',
  text: '',
  url: '',
  ...part,
});

const block = <K extends BlockKind>(kind: K, id: () => string, part: Partial<Extract<Block, { kind: K }>>) =>
  ({ ...freshBlock(kind, id), ...part }) as Block;

async function withBlocks(actor: Actor, cardId: string, blocks: Block[]): Promise<void> {
  const { version, lines, audience } = await openCard(actor, cardId);
  await saveCard(actor, cardId, { baseVersion: version, lines, audience, blocks }, systemClock);
}

/** The blocks of an inspector's card at the fair: a film with captions, pictures, and a mail that names the placement. */
export async function addFairBlocks(actor: Actor, cardId: string): Promise<void> {
  const id = ids('f');
  const film = await addFilm(actor, await readFile(path.join(MEDIA, 'ropeway.mp4')), systemClock);
  const captions = await addCaptions(actor, await readFile(path.join(MEDIA, 'ropeway.vtt')), systemClock);
  const poster = await scenery(actor, 3, 675);
  const pictures = [
    ['The lower station', 'Car 7 before the first ride'],
    ['Tower 4', 'Rope shoes renewed in spring'],
    ['Above the tree line', 'Wind gauge and its heater'],
  ];
  await withBlocks(actor, cardId, [
    block('action bar', id, {
      buttons: [
        { id: id(), act: 'save', line: null, subject: '', text: '' },
        { id: id(), act: 'call', line: null, subject: '', text: '' },
        {
          id: id(),
          act: 'mail',
          line: null,
          subject: 'Rope inspection ({placement})',
          text: 'We met at Cable Days. I would like to know more about …',
        },
      ],
    }),
    block('video', id, {
      title: 'A ride up',
      videos: [
        {
          id: id(),
          title: 'Twelve seconds up the Tarnhope line',
          film,
          player: '',
          poster,
          captions: { hash: captions.hash, language: 'en' },
        },
      ],
    }),
    block('gallery', id, {
      title: 'From the line',
      items: await Promise.all(
        pictures.map(async ([title, text], at) =>
          item(id(), {
            title: title!,
            text: text!,
            alt: `Drawing: ${title!.toLowerCase()}`,
            picture: await scenery(actor, 10 + at),
          }),
        ),
      ),
    }),
    block('about', id, {
      text: 'Cableways carry people over rock and water. I see to it that the ropes hold: 38 lines in six valleys, each looked at twice a year.',
    }),
    block('hours', id, { title: 'The depot' }),
  ]);
}

/** Odile's blocks: about, what she makes, and where else to go. */
export async function addClientBlocks(actor: Actor, cardId: string): Promise<void> {
  const id = ids('o');
  await withBlocks(actor, cardId, [
    block('about', id, {
      before: true,
      text: 'I record what is easily drowned out: curlews over bog, bats at the eaves, a stream under ice.',
    }),
    block('products', id, {
      title: 'Recordings',
      items: await Promise.all(
        [
          ['Moor at four', '48 minutes, 12.00'],
          ['Under ice', '31 minutes, 9.00'],
        ].map(async ([title, text], at) =>
          item(id(), {
            title: title!,
            text: text!,
            url: 'https://brandreth.example/recordings',
            alt: 'Drawing of the recording’s pitch over time',
            picture: await pictureOf(actor, drawCover(at)),
          }),
        ),
      ),
    }),
    block('reply form', id, { fields: ['firm'] }),
    block('onward links', id, {
      title: 'Elsewhere',
      items: [
        item(id(), { title: 'Field notebook', text: 'A page a week', url: 'https://notebook.example/odile' }),
        item(id(), {
          title: 'Workshops',
          text: 'Listening walks, spring and autumn',
          url: 'https://walks.example/curlew',
        }),
      ],
    }),
  ]);
}
