'use client';
import { useMemo, useState } from 'react';
import type { Composition } from '@/core/card';
import type { SpecimenOf } from '@/core/specimen';
import { specimenFile } from '@/core/specimen/carried';
import { figure } from '@/core/language';
import { CARD, EXPORT } from '@/core/words';
import { readContactFile, VERSIONS, type VcardVersion } from '@/core/vcard';
import { defaultLabel, shownValue, writtenName } from '@/core/record';

/** The contact file as an address book will hold it, read back from the file, and its source text. */
export function ContactView({
  card,
  composition,
  of,
  photo,
  version,
  onVersion,
}: {
  card: string;
  composition: Composition;
  of: SpecimenOf;
  photo: string | null;
  version: VcardVersion;
  onVersion: (version: VcardVersion) => void;
}) {
  const [source, setSource] = useState(false);
  const file = specimenFile(composition, of);
  const contact = useMemo(() => readContactFile(file, 'GB').contacts[0] ?? null, [file]);
  return (
    <div className="contact">
      <div className="choice" role="group" aria-label={CARD.showAs}>
        <button type="button" aria-pressed={!source} onClick={() => setSource(false)}>
          {CARD.inAddressBook}
        </button>
        <button type="button" aria-pressed={source} onClick={() => setSource(true)}>
          {CARD.source}
        </button>
      </div>
      <div className="choice versions" role="group" aria-label={CARD.versions}>
        {[...VERSIONS].reverse().map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={each === version}
            title={each === '3.0' ? CARD.served : undefined}
            onClick={() => onVersion(each)}
          >
            {each}
          </button>
        ))}
        <a href={`/api/contacts?cards=${card}&v=${version}`} download>
          {EXPORT.card}
        </a>
      </div>
      {source || !contact ? (
        <pre tabIndex={0} aria-label={CARD.sourceOf}>
          {file.replace(
            /(PHOTO[^\n]*\n)( [^\n]*\n)+\r?\n?/,
            (_, first: string) =>
              `${first} ${CARD.photoBytes(figure(photo ? Math.round((photo.length * 3) / 4) : 0))}\n`,
          )}
        </pre>
      ) : (
        <div className="contact-sheet">
          {contact.photo && (
            <img src={`data:image/jpeg;base64,${contact.photo.base64}`} alt="" width={72} height={72} />
          )}
          <h2>{writtenName(contact.record.name)}</h2>
          <dl>
            {contact.record.details.map((detail) => (
              <div key={detail.id}>
                <dt>{defaultLabel(detail)}</dt>
                <dd>{shownValue(detail)}</dd>
              </div>
            ))}
          </dl>
        </div>
      )}
    </div>
  );
}
