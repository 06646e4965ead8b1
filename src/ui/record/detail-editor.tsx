'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { kindIn, wordOfUse } from '@/core/messages';
import { labelIn } from '@/core/record';
import { RECORD } from '@/core/words';
import { cleanLine, PURPOSES, purposeOf, USES, type Detail, type Purpose, type Use } from '@/core/record';
import { AddressFields } from './address-fields';
import { FurtherFields, isInWords } from './further-fields';
import { HoursFields } from './hours-fields';
import { PhotoCrop } from './photo-crop';

type Props = { detail: Detail; onChange: (detail: Detail) => void; onClose: () => void };

/** Uses that each kind can have; that texts are read is asked apart. */
const usesOf = (kind: Detail['kind']): readonly Use[] =>
  kind === 'phone' ? USES.filter((use) => use !== 'text') : ['work', 'home'];

/** All of a detail besides its value: label, uses, purpose, parts, hours, crop. */
export function DetailEditor({ detail, onChange, onClose }: Props) {
  const [label, setLabel] = useState(detail.label);
  if (detail.kind === 'photo') return <PhotoCrop detail={detail} onChange={onChange} onClose={onClose} />;
  const keepLabel = () => {
    const text = cleanLine(label).text.slice(0, 120);
    if (text !== detail.label) onChange({ ...detail, label: text });
  };
  const use = (each: Use, on: boolean) =>
    'uses' in detail &&
    onChange({ ...detail, uses: USES.filter((other) => (other === each ? on : detail.uses.includes(other))) });
  return (
    <div className="detail-editor" role="group" aria-label={RECORD.moreOf(detail.label || kindIn('en', detail.kind))}>
      <Form.Group controlId={`label-${detail.id}`} className="short">
        <Form.Label>{RECORD.label}</Form.Label>
        <Form.Control
          size="sm"
          value={label}
          placeholder={labelIn('en', { ...detail, label: '' })}
          maxLength={120}
          onChange={(event) => setLabel(event.target.value)}
          onBlur={keepLabel}
          onKeyDown={(event) => event.key === 'Enter' && keepLabel()}
        />
      </Form.Group>
      {'uses' in detail && detail.kind !== 'link' && (
        <fieldset>
          <legend>{RECORD.use}</legend>
          {usesOf(detail.kind).map((each) => (
            <label key={each}>
              <input
                type="checkbox"
                checked={detail.uses.includes(each)}
                onChange={(event) => use(each, event.target.checked)}
              />{' '}
              {wordOfUse('en', each)}
            </label>
          ))}
        </fieldset>
      )}
      {detail.kind === 'phone' && (
        <label>
          <input
            type="checkbox"
            checked={detail.uses.includes('text')}
            onChange={(event) => use('text', event.target.checked)}
          />{' '}
          {RECORD.readsTexts}
        </label>
      )}
      {detail.kind === 'link' && (
        <Form.Group controlId={`purpose-${detail.id}`} className="short">
          <Form.Label>{RECORD.purpose}</Form.Label>
          <Form.Select
            size="sm"
            value={purposeOf(detail)}
            onChange={(event) => onChange({ ...detail, purpose: event.target.value as Purpose })}
          >
            {PURPOSES.map((each) => (
              <option key={each} value={each}>
                {RECORD.purposes[each]}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )}
      {(detail.kind === 'phone' || detail.kind === 'email' || detail.kind === 'link' || detail.kind === 'address') && (
        <label>
          <input
            type="checkbox"
            checked={detail.preferred}
            onChange={(event) => onChange({ ...detail, preferred: event.target.checked })}
          />{' '}
          {RECORD.prefer}
        </label>
      )}
      {detail.kind === 'address' && <AddressFields address={detail} onChange={onChange} />}
      {detail.kind === 'hours' && <HoursFields hours={detail} onChange={onChange} />}
      {isInWords(detail) && (
        <FurtherFields
          id={detail.id}
          further={detail.further}
          onFurther={(further) => onChange({ ...detail, further })}
        />
      )}
      <Button variant="quiet" size="sm" onClick={onClose}>
        {RECORD.close}
      </Button>
    </div>
  );
}
