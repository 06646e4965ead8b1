import fc from 'fast-check';
import type { Draft, Line } from '@/core/card';
import { restoredDraft } from '@/core/revisions';
import { NO_HOUSE, type HouseStyle } from '@/core/house';
import type { PersonRecord } from '@/core/record';
import type { Actor } from '@/server/services/accounts/actor';
import { setState } from '@/server/services/cards/card-state';
import { createRecord } from '@/server/services/records/create-record';
import { saveCard } from '@/server/services/cards/edit-card';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { codeAsFile, openCode } from '@/server/services/hand-outs/codes';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { readHouse, saveHouse } from '@/server/services/house/house-style';
import { openCard } from '@/server/services/cards/open-card';
import { publishCard } from '@/server/services/publishing/publish-card';
import { readResponse } from '@/server/services/response/read-response';
import { openRevision } from '@/server/services/publishing/revisions';
import { searched } from '../../fixtures/any-card';
import { ask, clock } from '../full-card';
import { newActor, useDatabase } from '../place';

useDatabase();

// A card's life as anybody may lead it, against a model of it that knows nothing of how it is built: after each step recipients get what
// was published last, dressed as the house style says today, and not one number more.

type Channel = 'page' | 'file';
type Step =
  | { do: 'tick'; detail: number; channel: Channel | 'code'; on: boolean }
  | { do: 'renumber'; detail: number }
  | { do: 'reword'; detail: number }
  | { do: 'publish' }
  | { do: 'rest' }
  | { do: 'wake' }
  | { do: 'house'; page: boolean; file: boolean }
  | { do: 'freeze' }
  | { do: 'restore'; revision: number };

const detail = fc.integer({ min: 0, max: 2 });
const step: fc.Arbitrary<Step> = fc.oneof(
  fc.record({
    do: fc.constant('tick' as const),
    detail,
    channel: fc.constantFrom('page' as const, 'file' as const, 'code' as const),
    on: fc.boolean(),
  }),
  fc.record({ do: fc.constant('renumber' as const), detail }),
  fc.record({ do: fc.constant('reword' as const), detail }),
  fc.constant({ do: 'publish' as const }),
  fc.constant({ do: 'rest' as const }),
  fc.constant({ do: 'wake' as const }),
  fc.record({ do: fc.constant('house' as const), page: fc.boolean(), file: fc.boolean() }),
  fc.constant({ do: 'freeze' as const }),
  fc.record({ do: fc.constant('restore' as const), revision: fc.integer({ min: 0, max: 4 }) }),
);

let numbers = 0;
/** A number of London that is reserved for drama, each time another one; its last seven digits tell it in any output. */
const freshNumber = (): string => `+442079460${String((numbers += 1) % 1_000).padStart(3, '0')}`;
const markOf = (number: string) => number.slice(-7);

type Said = Record<Channel | 'code', string[]>;

class Life {
  private draft!: { ticks: Record<Channel | 'code', boolean>[]; words: (string | null)[] };
  private record: string[] = [];
  private out: Said | null = null;
  private revisions: { said: Said; draft: Life['draft']; values: string[] }[] = [];
  private resting = false;
  private house: { number: string; page: boolean; file: boolean } | null = null;
  private frozen: { id: string; text: string }[] = [];
  private everUsed = new Set<string>();
  views = 0;
  rests = 0;

  private constructor(
    private readonly actor: Actor,
    private readonly ids: { recordId: string; cardId: string },
    private readonly address: string,
  ) {}

  static async begin(address: string): Promise<Life> {
    const actor = await newActor(clock);
    const life = new Life(
      actor,
      await createRecord(actor, { name: 'Ilse Varrow', phone: '', email: '' }, clock),
      address,
    );
    life.record = [freshNumber(), freshNumber(), freshNumber()];
    for (const number of life.record) life.everUsed.add(number);
    await life.writeRecord();
    // What comes to the record of a draft, and is for work, starts on page and contact file.
    const first = () => ({ page: true, file: true, code: false });
    life.draft = { ticks: [first(), first(), first()], words: [null, null, null] };
    return life;
  }

  private async writeRecord() {
    const { version, body } = await openRecord(this.actor, this.ids.recordId);
    const details = this.record.map((number, at): PersonRecord['details'][number] => ({
      kind: 'phone',
      id: `p${at}`,
      label: '',
      preferred: false,
      number,
      uses: ['work'],
    }));
    await saveRecord(this.actor, this.ids.recordId, version, { ...body, details }, clock);
  }

  private async writeCard(change: (lines: Line[]) => Line[]) {
    const card = await openCard(this.actor, this.ids.cardId);
    await saveCard(
      this.actor,
      this.ids.cardId,
      { baseVersion: card.version, lines: change(card.lines), audience: card.audience },
      clock,
    );
  }

  private said(): Said {
    const on = (channel: Channel | 'code') =>
      this.record.flatMap((number, at) => (this.draft.ticks[at]![channel] ? [this.draft.words[at] ?? number] : []));
    return { page: on('page'), file: on('file'), code: on('code') };
  }

  async take(step: Step): Promise<void> {
    const {
      actor,
      ids: { cardId },
    } = this;
    const only = (at: number, change: (line: Line) => Line) => (lines: Line[]) =>
      lines.map((line) => (line.detail === `p${at}` ? change(line) : line));
    switch (step.do) {
      case 'tick':
        this.draft.ticks[step.detail]![step.channel] = step.on;
        return this.writeCard(
          only(step.detail, (line) => ({ ...line, ticks: { ...line.ticks, [step.channel]: step.on } })),
        );
      case 'renumber':
        this.everUsed.add((this.record[step.detail] = freshNumber()));
        return this.writeRecord();
      case 'reword': {
        const number = freshNumber();
        this.everUsed.add((this.draft.words[step.detail] = number));
        return this.writeCard(only(step.detail, (line) => ({ ...line, wording: number })));
      }
      case 'publish': {
        const { version } = await openCard(actor, cardId);
        const publishing = publishCard(actor, cardId, { baseVersion: version, address: this.address }, clock);
        if (this.said().page.length + this.said().file.length === 0)
          return void (await expect(publishing).rejects.toMatchObject({ problem: { code: 'NOTHING_ON_PAGE' } }));
        await publishing;
        this.out = this.said();
        this.revisions.push({ said: this.out, draft: structuredClone(this.draft), values: [...this.record] });
        this.resting = false;
        return;
      }
      case 'rest':
      case 'wake':
        if (!this.out) return;
        await setState(
          actor,
          cardId,
          { state: step.do === 'rest' ? 'resting' : 'published', notice: 'Back soon', instead: null },
          clock,
        );
        if (step.do === 'rest' && !this.resting) this.rests += 1;
        this.resting = step.do === 'rest';
        return;
      case 'house': {
        const number = freshNumber();
        this.everUsed.add(number);
        this.house = { number, page: step.page, file: step.file };
        const line: HouseStyle['lines'][number] = {
          id: 'house-desk',
          label: 'Desk',
          page: step.page,
          file: step.file,
          detail: { kind: 'phone', id: 'house-desk', label: 'Desk', preferred: false, number, uses: ['work'] },
        };
        const { number: baseNumber } = await readHouse(actor);
        await saveHouse(actor, { baseNumber, style: { ...NO_HOUSE, lines: [line] }, note: '' }, clock);
        return;
      }
      case 'freeze': {
        if (!this.out || this.resting) return;
        // What was unticked since is refused, since a copy can never be taken back.
        const kept = this.out.code.every((number) => this.said().code.includes(number));
        const made = await makeHandOut(
          actor,
          { cardId, placement: 'Badge', channel: 'code', frozen: true },
          clock,
        ).catch((error: unknown) => {
          expect(error).toMatchObject({ problem: { code: 'PROOF_FAILED' } });
          expect(kept).toBe(false);
          return null;
        });
        if (!made) return;
        const { text } = await openCode(actor, made.id, clock);
        for (const number of this.out.code) expect(searched(text)).toContain(markOf(number));
        this.frozen.push({ id: made.id, text });
        return;
      }
      case 'restore': {
        const kept = this.revisions[step.revision];
        if (!kept) return;
        const now = await openCard(actor, cardId);
        const revision = await openRevision(actor, cardId, step.revision + 1);
        const { draft, lost } = restoredDraft(
          { ...revision, draft: revision.draft! },
          { draft: now as unknown as Draft, record: now.record, country: 'GB' },
        );
        expect(lost).toEqual([]);
        await saveCard(actor, cardId, { baseVersion: now.version, ...draft }, clock);
        const before = kept.draft;
        // It says what it said: where the record has gone on, in words of the card's own.
        const words = this.record.map((number, at) => {
          const said = before.words[at] ?? kept.values[at]!;
          const wasOut = Object.values(before.ticks[at]!).some(Boolean);
          return !wasOut ? before.words[at]! : said === number && before.words[at] === null ? null : said;
        });
        this.draft = { ticks: structuredClone(before.ticks), words };
      }
    }
  }

  /** What recipients get is what the model says, to the number. */
  async check(): Promise<void> {
    const wanted: Record<Channel, Set<string>> = { page: new Set(), file: new Set() };
    for (const channel of ['page', 'file'] as const) {
      const own = this.out && !this.resting ? this.out[channel] : [];
      // The note of a card that rests says how the house is reached, whatever was asked for.
      const house = this.out && this.house?.[this.resting ? 'page' : channel] ? [this.house.number] : [];
      wanted[channel] = new Set([...own, ...house]);
    }
    const paths: [string, Channel][] = [
      [`/c/${this.address}`, 'page'],
      ...['2.1', '3.0', '4.0'].map((version): [string, Channel] => [`/c/${this.address}.vcf?v=${version}`, 'file']),
    ];
    for (const [path, channel] of paths) {
      const answer = await ask(path);
      expect([path, answer.status]).toEqual([path, this.out ? (this.resting ? 410 : 200) : 404]);
      // Whoever is given the card is counted, and told so.
      if (channel === 'page' && answer.status === 200) {
        expect(answer.headers['Heathland-Event']).toBe('recorded');
        this.views += 1;
      }
      const text = searched(String(answer.body));
      for (const number of this.everUsed)
        expect([path, number, text.includes(markOf(number))]).toEqual([path, number, wanted[channel].has(number)]);
    }
    for (const { id, text } of this.frozen) expect((await openCode(this.actor, id, clock)).text).toBe(text);
  }

  async figures() {
    const { summary } = await readResponse(this.actor, { cardId: this.ids.cardId, days: 7 }, clock);
    return summary.totals;
  }

  async codes() {
    const asked = { format: 'svg', widthMm: 25, dpi: 300, spot: null } as const;
    for (const { id } of this.frozen)
      expect(String((await codeAsFile(this.actor, id, asked, clock)).bytes)).toMatch(/^<svg /);
  }
}

test('whatever is done to a card, recipients get what was published last, in today’s house style, and nothing that was not ticked then', async () => {
  let lives = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 6, maxLength: 18 }), async (steps) => {
      const life = await Life.begin(`life-${(lives += 1)}`);
      for (const each of [...steps.slice(0, 3), { do: 'publish' as const }, ...steps.slice(3)]) {
        await life.take(each);
        await life.check();
      }
      // Once for each time that a card was put to rest, a process that still held it ready counts the view that it answers with the note.
      const { views } = await life.figures();
      expect(views).toBeGreaterThanOrEqual(life.views);
      expect(views).toBeLessThanOrEqual(life.views + life.rests);
      await life.codes();
    }),
    { numRuns: 8, interruptAfterTimeLimit: 40_000 },
  );
}, 180_000);
