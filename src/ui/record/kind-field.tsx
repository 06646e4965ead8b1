import { Form } from 'react-bootstrap';
import { NAME_KINDS, type NameKind } from '@/core/record';
import { RECORD } from '@/core/words';

type Props = {
  id: string;
  kind: NameKind | undefined;
  onKind: (kind: NameKind | undefined) => void;
  /** Says what comes of it. */
  explained?: boolean;
};

/** What a record stands for: a person, or a desk, a team, a place. */
export const KindField = ({ id, kind, onKind, explained = false }: Props) => (
  <Form.Group controlId={id} className="kind-field">
    <Form.Label>{RECORD.standsFor}</Form.Label>
    <Form.Select
      value={kind ?? ''}
      aria-describedby={kind && explained ? `${id}-text` : undefined}
      onChange={({ target }) => onKind(NAME_KINDS.find((each) => each === target.value))}
    >
      <option value="">{RECORD.stands.individual}</option>
      {NAME_KINDS.map((each) => (
        <option key={each} value={each}>
          {RECORD.stands[each]}
        </option>
      ))}
    </Form.Select>
    {kind && explained && (
      <Form.Text id={`${id}-text`} as="span">
        {RECORD.standsForText}
      </Form.Text>
    )}
  </Form.Group>
);
