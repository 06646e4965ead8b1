import Link from 'next/link';
import type { Mine } from '@/core/shown';
import { INVITE } from '@/core/words';

/** A member’s own card: the code that others scan, large, and what is still asked of them. */
export function MineSheet({ mine: { recordId, name, cardId, out, missing } }: { mine: Mine }) {
  const words = INVITE.mine;
  return (
    <section className="mine">
      <h1>{name}</h1>
      {out ? (
        <>
          <div className="mine-code" dangerouslySetInnerHTML={{ __html: out.svg }} />
          <p className="finding">{words.show}</p>
        </>
      ) : (
        <p className="finding">{words.draft}</p>
      )}
      <p className="acts">
        {out && (
          <a className="btn btn-primary" href={out.url}>
            {words.open}
          </a>
        )}
        {cardId && (
          <Link className={`btn ${out ? 'btn-quiet' : 'btn-primary'}`} href={`/cards/${cardId}`}>
            {words.card}
          </Link>
        )}
        <Link className="btn btn-quiet" href={`/people/${recordId}`}>
          {words.edit}
        </Link>
      </p>
      <h2 className="caps">{words.asked}</h2>
      {missing.length === 0 ? (
        <p>{words.nothing}</p>
      ) : (
        <ul>
          {missing.map((each) => (
            <li key={each}>
              {words.ask[each]}{' '}
              <Link href={`/people/${recordId}`} aria-label={`${words.add}: ${words.ask[each]}`}>
                {words.add}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
