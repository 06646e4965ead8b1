'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import type { RowTag, TagRows } from '@/core/shown';
import { TAGS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { LostTag } from './lost-tag';
import { RowWriter } from './row-writer';
import { TagRowList } from './tag-row-list';

const W = TAGS.rows;
type Props = { opened: TagRows; bench: boolean; zone: string };

const toWrite = ({ writtenAt, locked, state, mayWrite }: RowTag): boolean =>
  writtenAt === null && !locked && state === 'out' && mayWrite;

/** Tags of one placement: written one after the other, each ticked off as it is, or listed for whoever encodes them. */
export function TagRowsScreen({ opened, bench, zone }: Props) {
  const router = useRouter();
  const [tags, setTags] = useState(opened.tags);
  const [at, setAt] = useState<string | null>(null);
  const [before, setBefore] = useState<string | null>(null);
  const [lost, setLost] = useState<RowTag | null>(null);
  const [sure, setSure] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const { placements, of, total } = opened;
  if (!of) {
    return (
      <section className="first">
        <h1>{W.none}</h1>
        <p className="finding">{W.noneText}</p>
        <Link className="btn btn-primary" href="/people">
          {W.toPeople}
        </Link>
      </section>
    );
  }
  const left = tags.filter(toWrite);
  const current = tags.find(({ id }) => id === at) ?? left[0] ?? null;
  const written = tags.filter(({ writtenAt }) => writtenAt !== null).length;
  const change = (id: string, with_: Partial<RowTag>) =>
    setTags((all) => all.map((tag) => (tag.id === id ? { ...tag, ...with_ } : tag)));
  async function noteWritten(tag: RowTag, locked: boolean): Promise<boolean> {
    const answer = await call(`/api/hand-outs/${tag.id}/tag`, { json: { act: 'written', locked } });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return false;
    change(tag.id, { writtenAt: new Date().toISOString(), locked });
    setBefore(tag.person);
    setAt(null);
    return true;
  }
  async function noteAll() {
    const ids = left.filter(({ live }) => live).map(({ id }) => id);
    const answer = await call<{ written: number }>('/api/tags', { method: 'PUT', json: { tags: ids } });
    setProblem(answer.ok ? null : answer.problem);
    setSure(false);
    if (answer.ok) for (const id of ids) change(id, { writtenAt: new Date().toISOString() });
  }
  async function reload(placement: string) {
    const answer = await call<TagRows>(`/api/tags?placement=${placement}`);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setTags(answer.value.tags);
  }
  async function wake({ id }: RowTag) {
    const json = { what: 'state', state: 'out', notice: '' };
    const answer = await call(`/api/hand-outs/${id}/changes`, { method: 'PUT', json });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) change(id, { state: 'out' });
  }
  return (
    <>
      <header className="head">
        <div>
          <h1>{W.title}</h1>
          <Form.Select
            size="sm"
            className="which-tags"
            aria-label={W.which}
            value={of.id}
            onChange={({ target }) => router.push(`/tags?placement=${target.value}`)}
          >
            {placements.map((each) => (
              <option key={each.id} value={each.id}>
                {W.choice(each.name, each.id === of.id ? written : each.written, each.tags)}
              </option>
            ))}
          </Form.Select>
        </div>
        <div className="acts">
          <span className="note">{W.supplier}</span>
          {(['csv', 'xlsx'] as const).map((as) => (
            <a key={as} className="btn btn-quiet" href={`/api/tags/${of.id}/${as}`} download>
              {W[as]}
            </a>
          ))}
        </div>
      </header>
      <section className="tag-rows">
        <div>
          <p className="finding">{W.finding(written, tags.length)}</p>
          <progress max={tags.length} value={written} aria-label={W.finding(written, tags.length)} />
          {total > tags.length && <p className="note">{W.part(tags.length, total)}</p>}
          <ProblemNote problem={problem} />
          <TagRowList
            tags={tags}
            current={current?.id ?? null}
            zone={zone}
            onWrite={(id) => setAt(id)}
            onLost={setLost}
            onWake={(tag) => void wake(tag)}
          />
          {left.length > 1 &&
            (sure ? (
              <p className="attention">
                {W.markAllText}{' '}
                <Button variant="quiet" size="sm" onClick={() => void noteAll()}>
                  {W.markAllSure}
                </Button>
              </p>
            ) : (
              <button type="button" className="plain" onClick={() => setSure(true)}>
                {W.markAll(left.length)}
              </button>
            ))}
        </div>
        <div className="tag-row-now">
          <p role="status" className="passed">
            {before && W.done(before)}
          </p>
          {current ? (
            <RowWriter
              key={current.id}
              tag={current}
              bench={bench}
              onWritten={(locked) => noteWritten(current, locked)}
            />
          ) : (
            <p>{W.allDone}</p>
          )}
        </div>
      </section>
      {lost && (
        <LostTag
          tag={lost}
          onClose={() => setLost(null)}
          onResting={() => {
            change(lost.id, { state: 'resting' });
            setLost(null);
          }}
          onMoved={() => {
            setLost(null);
            void reload(of.id);
          }}
        />
      )}
    </>
  );
}
