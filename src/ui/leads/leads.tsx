'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { LEAD_STATES, type LeadState, type ListedLead } from '@/core/replies';
import { LEADS } from '@/core/words';
import { NewContact } from '@/ui/contacts/new-contact';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { DueList, type Due } from './due-list';
import { EraseDialog } from './erase-dialog';
import { LeadTable } from './lead-table';

export type Asked = {
  whose: 'mine' | 'all';
  state: LeadState | null;
  topic: string | null;
  occasion: string | null;
  due: boolean;
  words: string;
  after: { at: string; id: string } | null;
};

type Page = { leads: ListedLead[]; next: Asked['after'] };
type Named = { id: string; name: string };
type Props = {
  first: Page;
  asked: Asked;
  due: Due[];
  /** The day where the organisation is (`YYYY-MM-DD`), and how many of the member's leads are new. */
  today: string;
  fresh: number;
  /** Whether they are told in the evening who came; null where no mail leaves. */
  evening: boolean | null;
  /** What recipients did today at the occasion that the list is narrowed to. */
  here: { views: number; saves: number } | null;
  topics: string[];
  occasions: Named[];
  seesOthers: boolean;
  country: string;
  zone: string;
};

/** A list as its address says it: what is not asked for is not in it. */
export function addressOf({ whose, state, topic, occasion, due, words, after }: Asked): string {
  const query = new URLSearchParams({
    ...(whose === 'all' ? { whose } : {}),
    ...(state ? { state } : {}),
    ...(topic ? { topic } : {}),
    ...(occasion ? { occasion } : {}),
    ...(due ? { due: '1' } : {}),
    ...(words ? { q: words } : {}),
    ...(after ? { at: after.at, after: after.id } : {}),
  }).toString();
  return query && `?${query}`;
}

/** Leads that came of a contact file, and how many of its contacts could not be kept. */
type Came = { ids: string[]; left: number };

/** At an occasion what comes in appears by itself, this often. */
const LOOK_MS = 5_000;
const REST_MS = 250;

/** The leads of the member, the latest first, and what is to be done today. */
export function Leads({
  first,
  asked,
  due,
  today,
  fresh,
  evening,
  here,
  topics,
  occasions,
  seesOthers,
  country,
  zone,
}: Props) {
  const router = useRouter();
  const [more, setMore] = useState<{ of: Page; leads: ListedLead[]; next: Asked['after'] } | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [adding, setAdding] = useState(false);
  const [told, setTold] = useState(evening ?? false);
  const [came, setCame] = useState<Came | null>(null);
  const [erasing, setErasing] = useState(false);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  // What was loaded further belongs to the list that it was loaded for.
  const shown = more?.of === first ? more : { leads: first.leads, next: first.next };
  const narrowed = asked.state || asked.topic || asked.occasion || asked.due || asked.words;
  useEffect(() => {
    if (!asked.occasion) return;
    const timer = setInterval(() => document.visibilityState === 'visible' && router.refresh(), LOOK_MS);
    return () => clearInterval(timer);
  }, [asked.occasion, router]);
  const go = (change: Partial<Asked>) => router.push(`/leads${addressOf({ ...asked, after: null, ...change })}`);
  async function showMore() {
    const answer = await call<Page>(`/api/leads${addressOf({ ...asked, after: shown.next })}`, { method: 'GET' });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setMore({ of: first, leads: [...shown.leads, ...answer.value.leads], next: answer.value.next });
  }
  const ids = [...chosen].join(',');
  /** Of one contact its lead is shown, of several how many came in, and the way back. */
  function cameIn({ ids: all, left }: Came) {
    if (all.length === 1 && left === 0) return router.push(`/leads/${all[0]}`);
    setAdding(false);
    setCame({ ids: all, left });
    router.refresh();
  }
  /** A contact file that is dropped anywhere on the list. */
  async function take(file: File | undefined) {
    if (!file) return;
    const limitBytes = LIMITS.contactFileBytes;
    if (file.size > limitBytes) return setProblem({ code: 'FILE_TOO_LARGE', limitBytes });
    setBusy(true);
    const answer = await call<Came>('/api/leads/file', { bytes: file });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) cameIn(answer.value);
  }
  async function erase(which: string[]) {
    setErasing(false);
    const answer = await call('/api/leads/erase', { json: { ids: which } });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    setChosen(new Set());
    setCame(null);
    setMore(null);
    router.refresh();
  }
  return (
    <section
      className="leads"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void take(event.dataTransfer.files[0]);
      }}
    >
      <header className="head">
        <div>
          <h1>{LEADS.title}</h1>
          <p className="finding">{LEADS.finding(due.length, fresh)}</p>
        </div>
        <div className="acts">
          <Button aria-expanded={adding} onClick={() => setAdding(!adding)}>
            {adding ? LEADS.close : LEADS.add}
          </Button>
        </div>
      </header>
      {adding && (
        <div className="leads-new">
          <NewContact
            country={country}
            zone={zone}
            title={LEADS.addTitle}
            to="/api/leads"
            opens={(id) => `/leads/${id}`}
            onFile={(file) => void take(file)}
          />
        </div>
      )}
      {due.length > 0 && <DueList due={due} today={today} zone={zone} />}
      <div className="filters" role="search">
        {seesOthers && (
          <div className="choice" role="group" aria-label={LEADS.whose}>
            {(['mine', 'all'] as const).map((whose) => (
              <button key={whose} type="button" aria-pressed={asked.whose === whose} onClick={() => go({ whose })}>
                {LEADS[whose]}
              </button>
            ))}
          </div>
        )}
        <Search words={asked.words} onWords={(words) => go({ words })} />
        <Form.Select
          size="sm"
          aria-label={LEADS.state}
          value={asked.state ?? ''}
          onChange={({ target }) => go({ state: (target.value || null) as LeadState | null })}
        >
          <option value="">{LEADS.anyState}</option>
          {LEAD_STATES.map((state) => (
            <option key={state} value={state}>
              {LEADS.states[state]}
            </option>
          ))}
        </Form.Select>
        {topics.length > 0 && (
          <Form.Select
            size="sm"
            aria-label={LEADS.topics}
            value={asked.topic ?? ''}
            onChange={({ target }) => go({ topic: target.value || null })}
          >
            <option value="">{LEADS.anyTopic}</option>
            {topics.map((topic) => (
              <option key={topic}>{topic}</option>
            ))}
          </Form.Select>
        )}
        {occasions.length > 0 && (
          <Form.Select
            size="sm"
            aria-label={LEADS.occasion}
            value={asked.occasion ?? ''}
            onChange={({ target }) => go({ occasion: target.value || null })}
          >
            <option value="">{LEADS.anyOccasion}</option>
            {occasions.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </Form.Select>
        )}
        <label className="gap-choice">
          <input type="checkbox" checked={asked.due} onChange={({ target }) => go({ due: target.checked })} />{' '}
          {LEADS.dueOnly}
        </label>
      </div>
      {here && <p className="here">{LEADS.here(here.views, here.saves)}</p>}
      <ProblemNote problem={problem} />
      <p className="note" role="status">
        {busy && LEADS.reading}
        {came && (
          <>
            {LEADS.cameIn(came.ids.length, came.left)}{' '}
            <button type="button" className="plain" onClick={() => void erase(came.ids)}>
              {LEADS.takeOut}
            </button>
          </>
        )}
      </p>
      {shown.leads.length === 0 ? (
        <p className="finding">{narrowed ? LEADS.noneHere : LEADS.none}</p>
      ) : (
        <>
          <LeadTable
            leads={shown.leads}
            whose={asked.whose}
            zone={zone}
            chosen={chosen}
            onChoose={(id, on) => setChosen(new Set(on ? [...chosen, id] : [...chosen].filter((each) => each !== id)))}
          />
          <div className="leads-foot">
            {shown.next && (
              <Button variant="quiet" onClick={() => void showMore()}>
                {LEADS.more}
              </Button>
            )}
            <p className="exports">
              {LEADS.exported} ({LEADS.chosen(chosen.size)}):{' '}
              {(['csv', 'xlsx', 'vcf'] as const).map((as) => (
                <a
                  key={as}
                  href={`/api/leads/export${addressOf({ ...asked, after: null }) || '?'}&as=${as}${ids && `&ids=${ids}`}`}
                  download
                >
                  {LEADS.exports[as]}
                </a>
              ))}
              <button type="button" className="plain" onClick={() => window.print()}>
                {LEADS.print}
              </button>
              {chosen.size > 0 && chosen.size <= LIMITS.leadsAtOnce && (
                <button type="button" className="plain" onClick={() => setErasing(true)}>
                  {LEADS.eraseChosen(chosen.size)}
                </button>
              )}
            </p>
          </div>
        </>
      )}
      {evening !== null && (
        <label className="gap-choice evening">
          <input
            type="checkbox"
            checked={told}
            onChange={({ target }) => {
              setTold(target.checked);
              void call('/api/leads/evening', { method: 'PUT', json: { on: target.checked } }).then((answer) => {
                setProblem(answer.ok ? null : answer.problem);
                if (!answer.ok) setTold(!target.checked);
              });
            }}
          />{' '}
          {LEADS.evening}
        </label>
      )}
      <EraseDialog
        show={erasing}
        title={LEADS.eraseTitles(chosen.size)}
        onClose={() => setErasing(false)}
        onErase={() => void erase([...chosen])}
      />
    </section>
  );
}

/** The list follows once the hand rests. */
function Search({ words, onWords }: { words: string; onWords: (words: string) => void }) {
  const [typed, setTyped] = useState(words);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <Form.Control
      size="sm"
      type="search"
      data-filter
      autoFocus={words !== ''}
      aria-label={LEADS.search}
      placeholder={LEADS.search}
      value={typed}
      maxLength={200}
      onChange={({ target }) => {
        setTyped(target.value);
        clearTimeout(timer.current);
        timer.current = setTimeout(() => onWords(target.value.trim()), REST_MS);
      }}
    />
  );
}
