import knex, { type Knex } from 'knex';
import { down, up } from '../../migrations/0033-paper';
import * as backdropAndPass from '../../migrations/0034-backdrop-and-pass';
import * as madeFiles from '../../migrations/0035-made-files';
import * as artworks from '../../migrations/0036-artworks';
import * as copies from '../../migrations/0037-copies';
import * as tags from '../../migrations/0038-tags';
import * as privacyMap from '../../migrations/0039-privacy-map';
import * as blankTags from '../../migrations/0040-blank-tags';
import * as roster from '../../migrations/0041-roster';
import * as offices from '../../migrations/0042-offices';
import * as packs from '../../migrations/0043-packs';
import * as invitations from '../../migrations/0044-invitations';
import * as teamLeaders from '../../migrations/0045-team-leaders';
import * as leads from '../../migrations/0046-leads';
import * as replies from '../../migrations/0047-replies';
import * as repliesCounted from '../../migrations/0048-replies-counted';
import { openCard } from '@/server/services/cards/open-card';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { saveCard } from '@/server/services/cards/edit-card';
import { clock } from './full-card';
import { databaseUrl, newActor, useDatabase } from './place';

useDatabase();

/** What came after paper, in its order: what builds on something goes before it. */
const LATER = [
  backdropAndPass,
  madeFiles,
  artworks,
  copies,
  tags,
  privacyMap,
  blankTags,
  roster,
  offices,
  packs,
  invitations,
  teamLeaders,
  leads,
  replies,
  repliesCounted,
];
const later = {
  up: async (step: Knex) => {
    for (const each of LATER) await each.up(step);
  },
  down: async (step: Knex) => {
    for (const each of [...LATER].reverse()) await each.down(step);
  },
};

test('cards from before there was paper keep every line; on it starts what is for work and open, whatever was ticked for mails', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await createRecord(
    actor,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: 'ilse@tarnhope.example' },
    clock,
  );
  const { cardId: bare } = await createRecord(actor, { name: 'Keld', phone: '', email: '' }, clock);
  const common = { label: '', preferred: false };
  const { body, version } = await openRecord(actor, recordId);
  const more = [
    { kind: 'title' as const, id: 't', ...common, text: 'Lead rope inspector' },
    { kind: 'phone' as const, id: 'home', ...common, number: '+441632960182', uses: ['home' as const] },
    { kind: 'phone' as const, id: 'work', ...common, number: '+441632960100', uses: ['work' as const] },
    { kind: 'link' as const, id: 'l1', ...common, url: 'https://tarnhope.example', uses: [] },
    { kind: 'link' as const, id: 'l2', ...common, url: 'https://diary.example/ilse', uses: [] },
  ];
  await saveRecord(actor, recordId, version, { ...body, details: [...body.details, ...more] }, clock);
  const card = await openCard(actor, cardId);
  // Somebody has every line below their mails, their number at home as well.
  const lines = card.lines.map((line) => ({
    ...line,
    ticks: { ...line.ticks, page: true, signature: true, print: false },
  }));
  await saveCard(actor, cardId, { baseVersion: card.version, lines, audience: card.audience }, clock);
  const [before, none] = [(await openCard(actor, cardId)).lines, (await openCard(actor, bare)).lines];

  const owner = knex({ client: 'pg', connection: databaseUrl });
  try {
    await owner.transaction(async (step) => {
      await later.down(step);
      await down(step);
      await up(step);
      await later.up(step);
    });
  } finally {
    await owner.destroy();
  }
  const after = (await openCard(actor, cardId)).lines;
  expect(after.map(({ detail }) => detail)).toEqual(before.map(({ detail }) => detail));
  expect(after.filter(({ ticks }) => ticks.print).map(({ detail }) => detail)).toEqual(['name', 't', 'work', 'l1']);
  // What paper says and is open, a pass says; a backdrop says who is speaking.
  expect(after.filter(({ ticks }) => ticks.pass).map(({ detail }) => detail)).toEqual(['name', 't', 'work', 'l1']);
  expect(after.filter(({ ticks }) => ticks.backdrop).map(({ detail }) => detail)).toEqual(['name', 't']);
  expect((await openCard(actor, bare)).lines).toEqual(none);
});

test('what is private and somebody ticked for paper is ticked for paper alone: nothing else takes it along', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '', email: '' }, clock);
  const { body, version } = await openRecord(actor, recordId);
  const common = { label: '', preferred: false };
  const more = [
    { kind: 'phone' as const, id: 'home', ...common, number: '+441632960182', uses: ['home' as const] },
    { kind: 'phone' as const, id: 'work', ...common, number: '+441632960100', uses: ['work' as const] },
    { kind: 'birthday' as const, id: 'born', ...common, date: '1990-04-01' },
    { kind: 'own' as const, id: 'note', ...common, text: 'Ring twice' },
  ];
  await saveRecord(actor, recordId, version, { ...body, details: [...body.details, ...more] }, clock);
  const card = await openCard(actor, cardId);
  const lines = card.lines.map((line) => ({ ...line, ticks: { ...line.ticks, print: true } }));
  await saveCard(actor, cardId, { baseVersion: card.version, lines, audience: card.audience }, clock);
  const owner = knex({ client: 'pg', connection: databaseUrl });
  try {
    await owner.transaction(async (step) => {
      await later.down(step);
      await later.up(step);
    });
  } finally {
    await owner.destroy();
  }
  const on = (channel: 'print' | 'pass' | 'backdrop', all: typeof lines) =>
    all.filter(({ ticks }) => ticks[channel]).map(({ detail }) => detail);
  const after = (await openCard(actor, cardId)).lines;
  expect(on('print', after)).toEqual(on('print', lines));
  expect([on('pass', after), on('backdrop', after)]).toEqual([['name', 'work'], ['name']]);
});
