'use client';
import Link from 'next/link';
import { Button } from 'react-bootstrap';
import type { PublicAbout } from '@/core/shown';
import { PRIVACY } from '@/core/words';
import { PublicValues } from './public-values';

type Props = { about: PublicAbout; mine: boolean; organisation: string; today: string };

/** Everything that is public about one person, what is private first. */
export function PublicAboutSheet({ about, mine, organisation, today }: Props) {
  const { id, name, values, saved, sent } = about;
  const privates = values.filter(({ privacy }) => privacy !== null);
  const others = values.filter(({ privacy }) => privacy === null);
  return (
    <>
      <header className="head">
        <div>
          <h1>{PRIVACY.about(name, mine)}</h1>
          <p className="sub">
            {PRIVACY.record(organisation, today)} <Link href={`/people/${id}`}>{name}</Link>
          </p>
        </div>
        <div className="acts">
          <Button variant="quiet" onClick={() => window.print()}>
            {PRIVACY.print}
          </Button>
        </div>
      </header>
      <div className="privacy-map">
        {values.length === 0 && <p className="finding">{PRIVACY.aboutNone}</p>}
        <p className="note">{PRIVACY.aboutText(name)}</p>
        <PublicValues values={[...privates, ...others]} />
        {saved + sent > 0 && (
          <p>
            {PRIVACY.gone(saved, sent)}. <span className="note">{PRIVACY.goneText}</span>
          </p>
        )}
      </div>
    </>
  );
}
