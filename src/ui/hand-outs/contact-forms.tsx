'use client';
import { Form } from 'react-bootstrap';
import { CONTACT_FORMS, contactText, type Content } from '@/core/code';
import type { Composition } from '@/core/card';
import { FINEST_MM, FINEST_VERSION, QUIET_ZONE, symbolFor } from '@/core/qr';
import type { PersonRecord } from '@/core/record';
import { CODES } from '@/core/words';
import { LeavingLines } from './leaving';

type Contact = Extract<Content, { what: 'contact' }>;

/** The forms of a contact inside a code side by side: bytes, symbol, the smallest printed width, and what each loses. Private lines in it are named. */
export function ContactForms({
  composition,
  record,
  link,
  content,
  onContent,
}: {
  composition: Composition;
  record: PersonRecord;
  link: string;
  content: Contact;
  onContent: (content: Contact) => void;
}) {
  return (
    <>
      <fieldset className="contact-forms">
        <legend className="caps">{CODES.form}</legend>
        {CONTACT_FORMS.map((form) => {
          const { text, lost } = contactText(composition, form, content.link ? link : null);
          return (
            <Form.Check
              key={form}
              type="radio"
              name="form"
              id={`form-${form}`}
              checked={content.form === form}
              onChange={() => onContent({ ...content, form })}
              label={
                <>
                  {form} <span className="mono note">{sizeOf(text)}</span>
                  {lost.length > 0 && <span className="attention">{CODES.loses(lost)}</span>}
                </>
              }
            />
          );
        })}
        <Form.Check
          id="contact-link"
          label={CODES.withLink}
          checked={content.link}
          onChange={({ target }) => onContent({ ...content, link: target.checked })}
        />
      </fieldset>
      <LeavingLines lines={composition.lines.filter(({ on }) => on.includes('code'))} record={record} />
    </>
  );
}

function sizeOf(text: string): string {
  const bytes = new TextEncoder().encode(text).length;
  try {
    const { version, size } = symbolFor(text);
    if (version > FINEST_VERSION) return CODES.formTooFine(bytes, version);
    return CODES.formNote(bytes, version, Math.ceil((size + 2 * QUIET_ZONE) * FINEST_MM));
  } catch {
    return CODES.formTooLarge;
  }
}
