'use client';
import Link from 'next/link';
import type { ListedContact } from '@/core/shown';
import { REFER } from '@/core/words';
import { NewContact } from '@/ui/contacts/new-contact';
import { shortDayIn } from '@/ui/studio/instant';

type Props = { contacts: ListedContact[]; country: string; zone: string };

/** Whom a member refers, and a form to note another one. */
export function ReferList({ contacts, country, zone }: Props) {
  return (
    <section className="refer">
      <header className="head">
        <div>
          <h1>{REFER.title}</h1>
          <p className="sub">{REFER.about}</p>
        </div>
      </header>
      <div className="halves even">
        <div>
          {contacts.length === 0 ? (
            <p className="finding">{REFER.none}</p>
          ) : (
            <>
              <h2 className="caps">{REFER.list}</h2>
              <ul className="refer-people">
                {contacts.map(({ id, name, last }) => (
                  <li key={id}>
                    <Link href={`/refer/${id}`}>{name}</Link>
                    <span>{last ? `${REFER.last[last.way]}, ${shortDayIn(zone, last.at)}` : REFER.never}</span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
        <NewContact country={country} zone={zone} title={REFER.whom} to="/api/refer" opens={(id) => `/refer/${id}`} />
      </div>
    </section>
  );
}
