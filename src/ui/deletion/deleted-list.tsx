'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { Deleted } from '@/core/deletion';
import type { Problem } from '@/core/errors';
import { DELETION, FRAME } from '@/core/words';
import { call } from '@/ui/studio/call';
import { instantIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';

/** What is deleted and can still be brought back. */
export function DeletedList({ deleted, timeZone }: { deleted: Deleted[]; timeZone: string }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [back, setBack] = useState<Deleted | null>(null);
  const link = useRef<HTMLAnchorElement>(null);
  // The row that was acted on is gone: what came back is where one goes on.
  useEffect(() => link.current?.focus(), [back]);
  async function bringBack(each: Deleted) {
    const { kind, id } = each;
    const answer = await call(`/api/${kind === 'card' ? 'cards' : 'records'}/${id}/back`, { method: 'POST' });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    setBack(each);
    router.refresh();
  }
  return (
    <>
      <header className="head">
        <h1>{DELETION.title}</h1>
      </header>
      <div role="status">
        {back && (
          <p className="banner told">
            {DELETION.isBack(back.name)}{' '}
            <Link ref={link} href={`/${back.kind === 'card' ? 'cards' : 'people'}/${back.id}`}>
              {back.kind === 'card' ? DELETION.toCard : DELETION.toPerson}
            </Link>
          </p>
        )}
      </div>
      <ProblemNote problem={problem} />
      {deleted.length === 0 ? (
        <p className="company">
          {DELETION.none} {DELETION.noneText}
        </p>
      ) : (
        <div className="company wide">
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">{DELETION.column.what}</th>
                <th scope="col">{DELETION.column.deleted}</th>
                <th scope="col">{DELETION.column.erased}</th>
                <th scope="col">
                  <span className="visually-hidden">{FRAME.acts}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {deleted.map((each) => (
                <tr key={each.id}>
                  <th scope="row" className="value">
                    {each.name} <span className="also">{each.audience ?? DELETION.wholePerson}</span>
                  </th>
                  <td>{instantIn(timeZone, each.deletedAt)}</td>
                  <td>{instantIn(timeZone, each.erasedAt)}</td>
                  <td className="acts-cell">
                    <button
                      type="button"
                      className="plain"
                      aria-label={DELETION.backOf(`${each.name} ${each.audience ?? ''}`.trim())}
                      onClick={() => void bringBack(each)}
                    >
                      {DELETION.back}
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
