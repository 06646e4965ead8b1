'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { wordingOf, type Problem } from '@/core/errors';
import { ROSTER } from '@/core/words';
import { call } from '@/ui/studio/call';
import { LIMITS } from '@/core/limits';
import { isArchive, picturesOf } from './pictures-of';
import { ProblemNote } from '@/ui/studio/problem-note';

type Shown = { name: string; square: string | null; problem: Problem | null; matched: boolean };
/** Sends one picture; while too much waits already, again and again. */
async function sendOne(path: string, bytes: Blob): Promise<Problem | null> {
  for (;;) {
    const answer = await call(path, { method: 'PUT', bytes });
    if (answer.ok) return null;
    if (answer.problem.code !== 'TOO_BUSY') return answer.problem;
    await new Promise((resolve) => setTimeout(resolve, answer.problem.code === 'TOO_BUSY' ? BUSY_MS : 0));
  }
}

const BUSY_MS = 2_000;
/** So many pictures are sent at a time. */
const LANES = 3;
const MOST_SHOWN = 60;

/** Pictures of a run: a folder at once; which found their person, whose are nobody's, and which cannot be read. */
export function RunPictures({ run, open, onChange }: { run: string; open: boolean; onChange: () => void }) {
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const [shown, setShown] = useState<Shown[]>([]);
  const [done, setDone] = useState<{ done: number; of: number | null } | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const path = `/api/roster/${run}/pictures`;
  const load = useCallback(async () => {
    const answer = await call<{ pictures: Shown[] }>(path);
    if (answer.ok) setShown(answer.value.pictures);
  }, [path]);
  useEffect(() => {
    // eslint-disable-next-line react-hooks/set-state-in-effect -- what is there is asked for once
    void load();
  }, [load]);

  async function send(chosen: FileList | null) {
    const given = [...(chosen ?? [])];
    if (given.length === 0) return;
    setProblem(null);
    let sent = 0;
    let failed: Problem | null = null;
    let tooLarge: Problem | null = null;
    // Of an archive nobody knows beforehand how many there are.
    const of = given.some(isArchive) ? null : given.length;
    setDone({ done: 0, of });
    const pictures = picturesOf(given);
    const lane = async () => {
      for (let next = await pictures.next(); !next.done && !failed; next = await pictures.next()) {
        const { name, bytes } = next.value;
        if (!bytes) tooLarge = { code: 'FILE_TOO_LARGE', limitBytes: LIMITS.photoBytes };
        else failed ??= await sendOne(`${path}?name=${encodeURIComponent(name)}`, bytes);
        sent += 1;
        setDone({ done: sent, of });
      }
    };
    try {
      await Promise.all(Array.from({ length: LANES }, lane));
    } catch {
      failed ??= { code: 'ARCHIVE_UNREADABLE' };
    }
    const matched = await call(path, { method: 'POST' });
    setDone(null);
    setProblem(failed ?? tooLarge ?? (matched.ok ? null : matched.problem));
    await load();
    onChange();
  }

  const nobodys = shown.filter(({ matched, problem: why }) => !matched && !why);
  const unreadable = shown.filter(({ problem: why }) => why);
  return (
    <section className="run-pictures">
      <h2 className="caps">{ROSTER.pictures}</h2>
      <p className="note">{ROSTER.picturesText}</p>
      {open && (
        <p>
          <input
            ref={files}
            type="file"
            multiple
            accept="image/*,.zip"
            hidden
            onChange={({ target }) => void send(target.files)}
          />
          <input
            ref={folder}
            type="file"
            multiple
            hidden
            {...{ webkitdirectory: '' }}
            onChange={({ target }) => void send(target.files)}
          />
          <Button size="sm" variant="quiet" disabled={done !== null} onClick={() => folder.current?.click()}>
            {ROSTER.chooseFolder}
          </Button>{' '}
          <Button size="sm" variant="quiet" disabled={done !== null} onClick={() => files.current?.click()}>
            {ROSTER.choosePictures}
          </Button>
        </p>
      )}
      <p role="status">{done ? ROSTER.uploading(done.done, done.of) : ''}</p>
      {done && (
        <progress
          {...(done.of === null ? {} : { max: done.of, value: done.done })}
          aria-label={ROSTER.uploading(done.done, done.of)}
        />
      )}
      <ProblemNote problem={problem} />
      {shown.length > 0 && <p>{ROSTER.picturesFound(shown.filter(({ matched }) => matched).length, shown.length)}</p>}
      {nobodys.length > 0 && (
        <>
          <h3 className="caps">{ROSTER.unmatched}</h3>
          <ul className="nobodys">
            {nobodys.slice(0, MOST_SHOWN).map(({ name, square }) => (
              <li key={name}>
                {square && <img src={`/api/pictures/${square}`} alt="" width={48} height={48} />}
                <small>{name}</small>
              </li>
            ))}
          </ul>
        </>
      )}
      {unreadable.length > 0 && (
        <>
          <h3 className="caps">{ROSTER.unreadable}</h3>
          <ul className="remarks">
            {unreadable.slice(0, MOST_SHOWN).map(({ name, problem: why }) => (
              <li key={name}>
                {name}: {why && wordingOf(why)}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
