'use client';
import { useMemo, useState } from 'react';
import { CARD, figure } from '@/core/messages';
import { readContactFile } from '@/core/vcard';
import { defaultLabel, shownValue, writtenName } from '@/core/record';

/** The contact file as an address book will hold it, read back from the file, and its source text. */
export function ContactView({ file, photo }: { file: string; photo: string | null }) {
  const [source, setSource] = useState(false);
  const contact = useMemo(() => {
    const read = readContactFile(file, 'GB');
    return read.ok ? (read.value[0] ?? null) : null;
  }, [file]);
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
      {source || !contact ? (
        <pre tabIndex={0} aria-label={CARD.sourceOf}>
          {file.replace(
            /(PHOTO[^\n]*\n)( [^\n]*\n)+/,
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
