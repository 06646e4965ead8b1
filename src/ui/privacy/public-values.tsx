import Link from 'next/link';
import type { ShownPublic } from '@/core/shown';
import { PRIVACY } from '@/core/words';

/** Values that are public: each with why it is private, where it is public, and on which cards. */
export function PublicValues({ values }: { values: ShownPublic[] }) {
  return (
    <ul className="public-values">
      {values.map(({ line, label, value, privacy, inside, cards, on }, at) => (
        <li key={`${line} ${at}`}>
          <span className="public-value">
            <span className="note">{inside ? PRIVACY.inside(label) : label || PRIVACY.name}</span>
            <span>{value}</span>
            {privacy && <b className="private-kind">{PRIVACY.kind[privacy]}</b>}
          </span>
          <span className="public-where">
            <span>{PRIVACY.onAll(on)}</span>
            <span className="note">
              {cards.map(({ id, audience }, index) => (
                <span key={id}>
                  {index > 0 && ', '}
                  <Link href={`/cards/${id}`}>{audience}</Link>
                </span>
              ))}
            </span>
          </span>
        </li>
      ))}
    </ul>
  );
}
