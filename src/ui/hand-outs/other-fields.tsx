'use client';
import type { ReactNode } from 'react';
import { Form } from 'react-bootstrap';
import { WIFI_KINDS, type Content } from '@/core/code';
import { LIMITS } from '@/core/limits';
import { CODES } from '@/core/words';

/** Contents that are not about a card. */
export const OTHERS = ['address', 'words', 'wifi', 'place', 'appointment'] as const;
export type Other = Extract<Content, { what: (typeof OTHERS)[number] }>;

type Props<C extends Other = Other> = { content: C; onContent: (content: C) => void };

/** What is typed into a code that is not about a card. */
export function OtherFields({ content, onContent }: Props) {
  switch (content.what) {
    case 'address':
      return (
        <Field id="url" word={CODES.url}>
          <Form.Control
            value={content.url}
            maxLength={LIMITS.link}
            onChange={({ target }) => onContent({ ...content, url: target.value })}
          />
        </Field>
      );
    case 'words':
      return (
        <Field id="text" word={CODES.textField}>
          <Form.Control
            as="textarea"
            rows={3}
            value={content.text}
            maxLength={LIMITS.codeBytes}
            onChange={({ target }) => onContent({ ...content, text: target.value })}
          />
        </Field>
      );
    case 'wifi':
      return <Wifi content={content} onContent={onContent} />;
    case 'place':
      return <Place content={content} onContent={onContent} />;
    case 'appointment':
      return <Appointment content={content} onContent={onContent} />;
  }
}

function Field({ id, word, children }: { id: string; word: string; children: ReactNode }) {
  return (
    <Form.Group controlId={`code-${id}`}>
      <Form.Label>{word}</Form.Label>
      {children}
    </Form.Group>
  );
}

function Wifi({ content, onContent }: Props<Extract<Content, { what: 'wifi' }>>) {
  return (
    <>
      <Field id="wifi" word={CODES.wifiName}>
        <Form.Control
          value={content.name}
          maxLength={64}
          onChange={({ target }) => onContent({ ...content, name: target.value })}
        />
      </Field>
      <Field id="wifi-kind" word={CODES.wifiKind}>
        <Form.Select
          value={content.kind}
          onChange={({ target }) =>
            onContent({ ...content, kind: WIFI_KINDS.find((each) => each === target.value) ?? 'WPA' })
          }
        >
          {WIFI_KINDS.map((each) => (
            <option key={each}>{each}</option>
          ))}
        </Form.Select>
      </Field>
      {content.kind !== 'none' && (
        <Field id="wifi-password" word={CODES.wifiPassword}>
          <Form.Control
            value={content.password}
            maxLength={128}
            autoComplete="off"
            onChange={({ target }) => onContent({ ...content, password: target.value })}
          />
        </Field>
      )}
      <Form.Check
        id="wifi-hidden"
        label={CODES.wifiHidden}
        checked={content.hidden}
        onChange={({ target }) => onContent({ ...content, hidden: target.checked })}
      />
    </>
  );
}

function Place({ content, onContent }: Props<Extract<Content, { what: 'place' }>>) {
  return (
    <>
      <div className="pair">
        {(['latitude', 'longitude'] as const).map((which) => (
          <Field key={which} id={which} word={CODES[which]}>
            <Form.Control
              type="number"
              step="any"
              value={content[which]}
              onChange={({ target }) => onContent({ ...content, [which]: Number(target.value) })}
            />
          </Field>
        ))}
      </div>
      <Field id="place-label" word={CODES.placeLabel}>
        <Form.Control
          value={content.label}
          maxLength={LIMITS.label}
          onChange={({ target }) => onContent({ ...content, label: target.value })}
        />
      </Field>
    </>
  );
}

function Appointment({ content, onContent }: Props<Extract<Content, { what: 'appointment' }>>) {
  return (
    <>
      <Field id="title" word={CODES.title}>
        <Form.Control
          value={content.title}
          maxLength={LIMITS.label}
          onChange={({ target }) => onContent({ ...content, title: target.value })}
        />
      </Field>
      <div className="pair">
        {(['from', 'until'] as const).map((which) => (
          <Field key={which} id={which} word={CODES[which]}>
            <Form.Control
              type="datetime-local"
              value={content[which]}
              onChange={({ target }) => onContent({ ...content, [which]: target.value })}
            />
          </Field>
        ))}
      </div>
      <Field id="at" word={CODES.occasionPlace}>
        <Form.Control
          value={content.place}
          maxLength={LIMITS.label}
          onChange={({ target }) => onContent({ ...content, place: target.value })}
        />
      </Field>
    </>
  );
}
