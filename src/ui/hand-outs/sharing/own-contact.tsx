'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { SharedCard } from '@/core/shown';
import { SHARE } from '@/core/words';
import { saveText } from '@/ui/studio/save-text';

type Kind = keyof typeof SHARE.steps;

/** The card as the phone's own contact: its file, and the steps by kind of phone. */
export function OwnContact({ shared }: { shared: SharedCard | null }) {
  const [kind, setKind] = useState<Kind>('mine');
  return (
    <div className="share-ways">
      <p>{SHARE.ownText}</p>
      <Button disabled={!shared} onClick={() => shared && saveText(shared.file.name, 'text/vcard', shared.file.text)}>
        {SHARE.ownFile}
      </Button>
      <Form.Group controlId="own-contact-kind">
        <Form.Label>{SHARE.kind}</Form.Label>
        <Form.Select value={kind} onChange={({ target }) => setKind(target.value as Kind)}>
          {(Object.keys(SHARE.steps) as Kind[]).map((each) => (
            <option key={each} value={each}>
              {SHARE.steps[each].name}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <ol className="steps">
        {SHARE.steps[kind].steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
    </div>
  );
}
