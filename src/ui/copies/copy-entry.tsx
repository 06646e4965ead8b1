import Link from 'next/link';
import type { CopyValue, GoneContacts, ShownCopy } from '@/core/shown';
import { COPIES } from '@/core/words';
import { shortDayIn } from '@/ui/studio/instant';

/** What was sought of a copy, else what is no longer so, each beside what the card says now. */
function Values({ values }: { values: CopyValue[] }) {
  const wanted = values.filter(({ sought }) => sought);
  const told = wanted.length > 0 ? wanted : values.filter(({ old }) => old);
  const shown = told.length > 0 ? told : values;
  return (
    <dl className="carried">
      {shown.map(({ label, was, now, old }, at) => (
        <div key={at}>
          <dt>{label || COPIES.name}</dt>
          <dd>
            {old ? <s>{was}</s> : was}
            {old && <b>{COPIES.now(now)}</b>}
          </dd>
        </div>
      ))}
    </dl>
  );
}

type Props = {
  copy: ShownCopy;
  zone: string;
  /** Marks it as dealt with or takes the mark away; null for who only looks. */
  onMark: ((id: string, done: boolean) => Promise<void>) | null;
};

/** A copy that is out: what it is and where, what it carries, and what can be done. */
export function CopyEntry({ copy, zone, onMark }: Props) {
  const { channel, cardId, handOutId, values, done } = copy;
  const what = copy.copies === null ? COPIES.some(channel, 1) : COPIES.some(channel, copy.copies);
  const old = values.some((value) => value.old);
  const isPiece = channel !== 'file' && channel !== 'mail';
  const named = `${copy.placement ?? what}, ${copy.person}`;
  return (
    <li className={done !== null || copy.retired ? 'dealt' : ''}>
      <div className="copy-what">
        <b>{what}</b>
        {copy.placement && <span>{copy.placement}</span>}
        {copy.place && <span>{COPIES.at(copy.place)}</span>}
        <span className="note">
          <Link href={`/cards/${cardId}`}>{copy.person}</Link> · {copy.audience}
        </span>
        <span className="note">
          <time dateTime={copy.since}>{shortDayIn(copy.since.length === 10 ? 'UTC' : zone, copy.since)}</time> ·{' '}
          {COPIES.revision(copy.revision)}
        </span>
      </div>
      <Values values={values} />
      <div className="copy-acts">
        {copy.retired && <span className="note">{COPIES.gaveUp}</span>}
        {isPiece && old && done === null && !copy.retired && (
          <>
            <Link
              className="btn btn-quiet btn-sm"
              href={
                channel === 'code' || !handOutId
                  ? `/cards/${cardId}/hand-outs`
                  : `/cards/${cardId}/hand-outs/${handOutId}`
              }
            >
              {COPIES.remedy[channel]}
            </Link>
            {onMark && (
              <button
                type="button"
                className="plain"
                aria-label={COPIES.doneOf(named)}
                onClick={() => void onMark(copy.id, true)}
              >
                {COPIES.done}
              </button>
            )}
            <p className="note">{copy.live && channel === 'print' ? COPIES.live : COPIES.why[channel]}</p>
          </>
        )}
        {done !== null && (
          <>
            <span className="note">
              ✓ {COPIES.doneOn} <time dateTime={done}>{shortDayIn(zone, done)}</time>
            </span>
            {onMark && (
              <button
                type="button"
                className="plain"
                aria-label={COPIES.undoOf(named)}
                onClick={() => void onMark(copy.id, false)}
              >
                {COPIES.undo}
              </button>
            )}
          </>
        )}
      </div>
    </li>
  );
}

/** Contacts of a card that nobody can change any more. */
export const GoneEntry = ({ gone }: { gone: GoneContacts }) => (
  <li>
    <div className="copy-what">
      <b>{COPIES.goneOf(gone.saved, gone.sent)}</b>
      <span className="note">
        <Link href={`/cards/${gone.cardId}`}>{gone.person}</Link> · {gone.audience}
      </span>
    </div>
    <Values values={gone.values} />
  </li>
);
