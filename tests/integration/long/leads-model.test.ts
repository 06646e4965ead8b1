import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import type { Role } from '@/core/access';
import { readDetail } from '@/core/record';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { createRecord } from '@/server/services/records/create-record';
import { addLead } from '@/server/services/replies/add-lead';
import { changeLead, passLead, removeLeads } from '@/server/services/replies/keep-lead';
import { ALL_LEADS, listLeads } from '@/server/services/replies/list-leads';
import { mergeLeads, undoMerge } from '@/server/services/replies/merge-leads';
import { noteLead, removeNote } from '@/server/services/replies/notes';
import { openLead } from '@/server/services/replies/open-lead';
import { refused } from '../full-card';
import { clockAt, newActor, useDatabase } from '../place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');

// Leads of four members that lead any life, against a plain recomputation that keeps lists and knows of no database: after each step everybody sees
// just the leads and just the notes that are theirs to see (`docs/leads.md`), and nothing that somebody else keeps private is lost on the way.

const WHO = ['owner', 'leader', 'ada', 'ben'] as const;
type Who = (typeof WHO)[number];
/** Whose shared leads each of them reaches: ada is in the team that is led. */
const REACHES: Record<Who, readonly Who[]> = { owner: WHO, leader: ['leader', 'ada'], ada: ['ada'], ben: ['ben'] };
const ROLE: Record<Who, Role> = { owner: 'owner', leader: 'team leader', ada: 'holder', ben: 'holder' };

type Note = { text: string; by: Who; hidden: boolean };
type Merge = { by: Who; hidden: boolean; gone: Lead; moved: Note[]; madeHidden: Note[] };
type Lead = { id: string; owner: Who; hidden: boolean; notes: Note[]; merges: Merge[] };

type Step =
  | { do: 'add'; who: Who | null; hidden: boolean }
  | { do: 'hide'; who: Who | null; lead: number; hidden: boolean }
  | { do: 'note'; who: Who | null; lead: number; hidden: boolean }
  | { do: 'remove note'; who: Who | null; lead: number }
  | { do: 'merge'; who: Who | null; lead: number; other: number }
  | { do: 'undo'; who: Who | null; lead: number }
  | { do: 'pass'; who: Who | null; lead: number; to: Who }
  | { do: 'erase'; who: Who | null; lead: number };

const anybody = fc.constantFrom(...WHO);
/** Whose lead it is, more often than somebody else: most of what others try is refused. */
const who = fc.oneof({ weight: 3, arbitrary: fc.constant(null) }, { weight: 2, arbitrary: anybody });
const lead = fc.nat({ max: 3 });
const of = <D extends Step['do'], T>(name: D, rest: { [K in keyof T]: fc.Arbitrary<T[K]> }) =>
  fc.record({ do: fc.constant(name), who, ...rest });
const step = fc.oneof(
  { weight: 2, arbitrary: of('add', { hidden: fc.boolean() }) },
  { weight: 2, arbitrary: of('hide', { lead, hidden: fc.boolean() }) },
  { weight: 6, arbitrary: of('note', { lead, hidden: fc.boolean() }) },
  { weight: 1, arbitrary: of('remove note', { lead }) },
  { weight: 8, arbitrary: of('merge', { lead, other: lead }) },
  { weight: 3, arbitrary: of('undo', { lead }) },
  { weight: 2, arbitrary: of('pass', { lead, to: anybody }) },
  { weight: 1, arbitrary: of('erase', { lead }) },
) as fc.Arbitrary<Step>;

const email = readDetail('email', 'dell@hythe.example', { id: 'm', country: 'GB' });
/** Everybody has met the same person, so that each lead may be a double of each other. */
const DELL = { name: 'Dell Hythe', details: email.ok ? [email.value] : [], occasion: null };

const sees = (who: Who, { owner, hidden }: Lead) => owner === who || (!hidden && REACHES[who].includes(owner));
const latest = (who: Who, { merges }: Lead) => merges.findLast(({ by, hidden }) => !hidden || by === who);

class Office {
  private leads: Lead[] = [];
  private notes = 0;
  /** Leads that the latest step may have touched. */
  private touched = new Set<string>();

  private constructor(private readonly actors: Record<Who, Actor>) {}

  static async open(): Promise<Office> {
    const owner = await newActor(clock);
    const { recordId } = await createRecord(owner, { name: 'Ada Roe', phone: '', email: '' }, clock);
    const actors = { owner } as Record<Who, Actor>;
    for (const name of WHO.slice(1)) {
      const own = name === 'ada' ? recordId : null;
      const row = { id: randomUUID(), organisation_id: owner.organisationId, name, role: ROLE[name], own_record: own };
      const rest = { email: `${row.id}@heath.example`, password_hash: '!', must_change_password: false };
      await inTenant(owner, (tx) => tx('users').insert({ ...row, ...rest }));
      const team = new Set(name === 'leader' ? [recordId] : []);
      actors[name] = { ...owner, userId: row.id, role: ROLE[name], ownRecord: own, team };
    }
    return new Office(actors);
  }

  async take(step: Step): Promise<void> {
    const one = step.do === 'add' ? undefined : this.leads[step.lead % this.leads.length];
    const who = step.who ?? one?.owner ?? 'ada';
    const actor = this.actors[who];
    if (step.do === 'add') {
      const { id } = await addLead(actor, DELL, clock);
      await changeLead(actor, id, { private: step.hidden }, clock);
      this.leads.push({ id, owner: who, hidden: step.hidden, notes: [], merges: [] });
      return;
    }
    this.touched = new Set(one && [one.id]);
    if (!one) return;
    const isSeen = sees(who, one);
    /** Does it, or is told that there is no such lead. */
    const attempt = async (isAllowed: boolean, work: () => Promise<unknown>, code = 'NOT_FOUND'): Promise<boolean> => {
      if (isAllowed) await work();
      else await expect(work()).rejects.toMatchObject(refused(code));
      return isAllowed;
    };
    switch (step.do) {
      case 'hide':
        if (
          await attempt(
            one.owner === who,
            () => changeLead(actor, one.id, { private: step.hidden }, clock),
            isSeen ? 'NOT_ALLOWED' : 'NOT_FOUND',
          )
        )
          one.hidden = step.hidden;
        return;
      case 'note': {
        const text = `Note ${(this.notes += 1)}`;
        const note = { entry: null, kind: 'note' as const, at: null, place: '', text, private: step.hidden };
        if (await attempt(isSeen, () => noteLead(actor, one.id, note, clock)))
          one.notes.push({ text, by: who, hidden: step.hidden });
        return;
      }
      case 'remove note': {
        if (!isSeen) return;
        const { entries } = await openLead(actor, one.id);
        const entry = entries.find(({ text }) => text !== '');
        if (!entry) return;
        if (await attempt(entry.own, () => removeNote(actor, one.id, entry.id, clock)))
          one.notes = one.notes.filter(({ text }) => text !== entry.text);
        return;
      }
      case 'merge': {
        // One that is seen, more often than any other.
        const others = step.other > 0 ? this.leads.filter((each) => each !== one && sees(who, each)) : this.leads;
        const gone = others[step.other % others.length];
        if (!gone) return;
        this.touched.add(gone.id);
        const isAllowed = isSeen && sees(who, gone) && gone !== one;
        const work = () => mergeLeads(actor, one.id, { other: gone.id, chosen: [] }, clock);
        if (!(await attempt(isAllowed, work))) return;
        const madeHidden = gone.hidden && !one.hidden ? gone.notes.filter(({ hidden }) => !hidden) : [];
        for (const note of madeHidden) note.hidden = true;
        one.merges.push({ by: who, hidden: one.hidden || gone.hidden, gone, moved: gone.notes, madeHidden });
        one.notes = [...one.notes, ...gone.notes];
        this.leads = this.leads.filter((each) => each !== gone);
        return;
      }
      case 'undo': {
        const merge = isSeen ? latest(who, one) : undefined;
        if (!merge) return;
        const { merged } = await openLead(actor, one.id);
        await undoMerge(actor, one.id, merged!.id, clock);
        this.touched.add(merge.gone.id);
        for (const note of merge.madeHidden) note.hidden = false;
        const notes = merge.moved.filter((note) => one.notes.includes(note));
        one.notes = one.notes.filter((note) => !notes.includes(note));
        one.merges = one.merges.filter((each) => each !== merge);
        this.leads.push({ ...merge.gone, notes, merges: [] });
        return;
      }
      case 'pass': {
        const { owner } = one;
        if (!(await attempt(isSeen, () => passLead(actor, one.id, this.actors[step.to].userId, clock)))) return;
        one.owner = step.to;
        // Private notes of whoever hands it over, and of whose it was, do not go along.
        one.notes = one.notes.filter(({ by, hidden }) => !hidden || by === step.to || ![who, owner].includes(by));
        return;
      }
      case 'erase':
        if (await attempt(isSeen, () => removeLeads(actor, [one.id], clock)))
          this.leads = this.leads.filter((each) => each !== one);
    }
  }

  /** Every list, and what was just touched; in the end everything. */
  async check(everything: boolean): Promise<void> {
    const isLookedAt = ({ id }: Lead) => everything || this.touched.has(id);
    const sorted = (list: string[]) => [...list].sort();
    const checks = WHO.map(async (who) => {
      const actor = this.actors[who];
      const [seen, unseen] = [true, false].map((is) => this.leads.filter((each) => sees(who, each) === is)) as [
        Lead[],
        Lead[],
      ];
      for (const whose of ['all', 'mine'] as const) {
        const { leads } = await listLeads(actor, { ...ALL_LEADS, whose }, clock);
        const wanted = seen.filter(({ owner }) => whose === 'all' || owner === who);
        expect([who, whose, sorted(leads.map(({ id }) => id))]).toEqual([
          who,
          whose,
          sorted(wanted.map(({ id }) => id)),
        ]);
      }
      for (const each of seen.filter(isLookedAt)) {
        const { entries, doubles, merged, owner } = await openLead(actor, each.id);
        const texts = entries.flatMap(({ text, private: hidden }) =>
          text ? `${text}${hidden ? ' private' : ''}` : [],
        );
        const notes = each.notes.filter(({ hidden, by }) => !hidden || by === who);
        expect([who, sorted(texts)]).toEqual([
          who,
          sorted(notes.map(({ text, hidden }) => `${text}${hidden ? ' private' : ''}`)),
        ]);
        expect(sorted(doubles.map(({ id }) => id))).toEqual(
          sorted(seen.filter((other) => other !== each).map(({ id }) => id)),
        );
        expect([owner.id, merged !== null]).toEqual([this.actors[each.owner].userId, latest(who, each) !== undefined]);
      }
      for (const { id } of unseen.filter(isLookedAt))
        await expect(openLead(actor, id)).rejects.toMatchObject(refused('NOT_FOUND'));
    });
    await Promise.all(checks);
  }
}

/** One that is private and two that are shared, with notes of different people: whatever comes then has something to lose. */
const FIRST: Step[] = [
  { do: 'add', who: 'ada', hidden: true },
  { do: 'add', who: 'ada', hidden: false },
  { do: 'add', who: 'ben', hidden: false },
  { do: 'note', who: 'ada', lead: 0, hidden: false },
  { do: 'note', who: 'owner', lead: 1, hidden: true },
  { do: 'note', who: 'leader', lead: 1, hidden: false },
];

test('whatever members do with leads, each sees just what is theirs to see, and what somebody keeps private stays theirs (property)', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 8, maxLength: 16 }), async (steps) => {
      const office = await Office.open();
      for (const each of [...FIRST, ...steps]) {
        clock.set(new Date(clock.now() + 60_000).toISOString());
        await office.take(each);
        await office.check(false);
      }
      await office.check(true);
    }),
    { numRuns: 14 },
  );
}, 180_000);
