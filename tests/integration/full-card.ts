import sharp from 'sharp';
import { BLOCKS, freshBlock, NOWHERE, type Block, type Line } from '@/core/card';
import type { Detail } from '@/core/record';
import { createAnswerer } from '@/recipient';
import type { Actor } from '@/server/services/accounts/actor';
import { createRecord } from '@/server/services/records/create-record';
import { saveCard } from '@/server/services/cards/edit-card';
import { addBlockPicture } from '@/server/services/media/add-picture';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { addCaptions, addFilm } from '@/server/services/media/films';
import { loadPublished, publishedVersion } from '@/server/services/publishing/load-published';
import { openCard } from '@/server/services/cards/open-card';
import { loadReferral } from '@/server/services/contacts/load-referral';
import { loadPreview } from '@/server/services/publishing/preview-card';
import { recordEvent } from '@/server/intake/record-event';
import { visitorHash } from '@/server/intake/visitor-hash';
import { FILM } from './belongings';
import { clockAt } from './place';

export const clock = clockAt('2026-11-24T09:00:00Z');
/** What answers recipients, as a process has it that has just started. */
export const newAnswer = () =>
  createAnswerer({
    clock,
    load: (key) => loadPublished(key, clock),
    preview: async (secret) => (await loadPreview(secret, clock)) ?? loadReferral(secret, clock),
    version: publishedVersion,
    visitor: visitorHash,
    record: recordEvent,
  });
export const answer = newAnswer();
const PERSON = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0';
export function ask(path: string, headers: Record<string, string> = {}, by = answer) {
  const url = new URL(path, 'http://cards.example');
  const header = (name: string) => ({ 'user-agent': PERSON, ...headers })[name] ?? '';
  return by({ method: 'GET', path: url.pathname, query: url.searchParams, header, address: '192.0.2.9', body: '' });
}
export const pageAt = async (path: string, headers?: Record<string, string>) => String((await ask(path, headers)).body);
export const refused = (code: string) => ({ problem: { code } });

export const ids = (() => {
  let at = 0;
  return () => `id${(at += 1)}`;
})();
let shade = 0;
export const picture = async (actor: Actor, width = 60, height = 40) => {
  const bytes = await sharp({
    create: { width, height, channels: 3, background: { r: (shade += 7) % 256, g: 90, b: 9 } },
  })
    .jpeg()
    .toBuffer();
  const { picture: hash, ...size } = await addBlockPicture(actor, bytes, clock);
  return { hash, ...size };
};

/** A card of forty lines and every block, saved as a draft. */
export async function fullCard(actor: Actor): Promise<{ cardId: string; version: number; blocks: Block[] }> {
  const { recordId, cardId } = await createRecord(
    actor,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: 'ilse@tarnhope.example' },
    clock,
  );
  const { body, version } = await openRecord(actor, recordId);
  const common = { preferred: false };
  const days = Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ from: '09:00', until: '17:00' }] : []));
  const more: Detail[] = [
    { kind: 'hours', id: 'h', label: 'Depot', ...common, days, zone: 'Europe/London' },
    {
      kind: 'address',
      id: 'a',
      label: 'Depot',
      ...common,
      uses: ['work'],
      street: '2 Lower Station Yard',
      locality: 'Skell Bridge',
      poBox: '',
      extended: '',
      region: '',
      postcode: '',
      country: '',
      map: 'https://maps.example/depot',
    },
    { kind: 'licence', id: 'l', label: '', ...common, text: 'Ropeway inspector C-4471' },
    { kind: 'title', id: 't', label: '', ...common, text: 'Rope inspector', further: { de: 'Seilprüferin' } },
    { kind: 'link', id: 'c', label: '', ...common, url: 'https://chat.example/ilse', purpose: 'chat', uses: [] },
  ];
  const details = [
    ...body.details,
    ...more,
    ...Array.from({ length: 32 }, (_, at): Detail => ({
      kind: 'own',
      id: `o${at}`,
      label: '',
      ...common,
      text: `Line ${at}`,
    })),
  ];
  await saveRecord(
    actor,
    recordId,
    version,
    { ...body, name: { ...body.name, further: { ar: 'إيلزه فارو' } }, details },
    clock,
  );
  const film = await addFilm(actor, FILM, clock);
  const captions = await addCaptions(actor, Buffer.from('WEBVTT\n\n00:00.000 --> 00:04.000\nUp we go'), clock);
  const item = async (title: string) => ({
    id: ids(),
    picture: await picture(actor),
    alt: '',
    title,
    text: 'Below',
    url: 'https://tarnhope.example/',
  });
  const made: Record<string, object> = {
    about: { text: 'I see to it that the ropes hold.' },
    gallery: { items: await Promise.all(Array.from({ length: 12 }, (_, at) => item(`Picture ${at}`))) },
    video: {
      videos: [
        {
          id: ids(),
          title: 'A ride',
          film,
          player: '',
          poster: await picture(actor),
          captions: { hash: captions.hash, language: 'en' },
        },
        {
          id: ids(),
          title: 'Elsewhere',
          film: null,
          player: 'https://player.example/embed/7',
          poster: null,
          captions: null,
        },
      ],
    },
    'onward links': { items: [await item('Notebook')] },
    credentials: { items: [await item('Guild of rope inspectors')] },
    products: { items: [await item('Splice')] },
    'action bar': {
      buttons: [
        { id: ids(), act: 'mail', line: null, subject: 'We met ({placement})', text: 'Dear Ilse,\nat {placement}' },
        { id: ids(), act: 'chat', line: null, subject: '', text: 'Hello from {placement}' },
        { id: ids(), act: 'save', line: null, subject: '', text: '' },
        { id: ids(), act: 'map', line: null, subject: '', text: '' },
      ],
    },
  };
  const blocks = BLOCKS.map((kind) => ({ ...freshBlock(kind, ids), ...made[kind] }) as Block);
  const card = await openCard(actor, cardId);
  const lines = card.lines.map((line): Line => ({ ...line, ticks: { ...NOWHERE, page: true, file: true } }));
  const saved = await saveCard(actor, cardId, { baseVersion: card.version, lines, audience: 'Fair', blocks }, clock);
  return { cardId, version: saved.version, blocks };
}
