import knex from 'knex';
import { down, up } from '../../migrations/0033-paper';
import { openCard } from '@/server/services/cards/open-card';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { saveCard } from '@/server/services/cards/edit-card';
import { clock } from './full-card';
import { databaseUrl, newActor, useDatabase } from './place';

useDatabase();

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
      await down(step);
      await up(step);
    });
  } finally {
    await owner.destroy();
  }
  const after = (await openCard(actor, cardId)).lines;
  expect(after.map(({ detail }) => detail)).toEqual(before.map(({ detail }) => detail));
  expect(after.filter(({ ticks }) => ticks.print).map(({ detail }) => detail)).toEqual(['name', 't', 'work', 'l1']);
  expect((await openCard(actor, bare)).lines).toEqual(none);
});
