'use client';
import { Form } from 'react-bootstrap';
import type { RunOptions } from '@/core/roster';
import { ROSTER } from '@/core/words';
import { CardPicker } from '@/ui/card/card-picker';

type Props = {
  options: RunOptions;
  teams: { id: string; name: string }[];
  disabled: boolean;
  onOptions: (options: RunOptions) => void;
};

/** A day from now as a field of date and time has it, in the viewer's zone. */
const tomorrow = (): string => {
  const at = new Date(Date.now() + 86_400_000);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
};
const local = (iso: string): string => {
  const at = new Date(iso);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
};

/** How a run is carried out: what becomes of cards, of whoever is not in the sheet, and of private details. */
export function RunOptionsForm({ options, teams, disabled, onOptions }: Props) {
  const { publish, complete } = options;
  const how = typeof publish === 'object' ? 'at' : publish;
  return (
    <fieldset className="run-options" disabled={disabled}>
      <legend className="caps">{ROSTER.how}</legend>
      <Form.Group controlId="run-publish">
        <Form.Label>{ROSTER.publish}</Form.Label>
        <Form.Select
          size="sm"
          value={how}
          onChange={({ target }) =>
            onOptions({
              ...options,
              publish:
                target.value === 'at' ? { at: new Date(tomorrow()).toISOString() } : (target.value as 'drafts' | 'now'),
            })
          }
        >
          <option value="drafts">{ROSTER.publishDrafts}</option>
          <option value="now">{ROSTER.publishNow}</option>
          <option value="at">{ROSTER.publishAt}</option>
        </Form.Select>
        {typeof publish === 'object' && (
          <Form.Control
            size="sm"
            type="datetime-local"
            aria-label={ROSTER.publishAt}
            value={local(publish.at)}
            onChange={({ target }) =>
              target.value && onOptions({ ...options, publish: { at: new Date(target.value).toISOString() } })
            }
          />
        )}
      </Form.Group>
      <Form.Group controlId="run-complete">
        <Form.Label>{ROSTER.complete}</Form.Label>
        <Form.Select
          size="sm"
          value={typeof complete === 'object' ? complete.team : complete}
          onChange={({ target }) =>
            onOptions({
              ...options,
              complete: target.value === 'no' || target.value === 'company' ? target.value : { team: target.value },
            })
          }
        >
          <option value="no">{ROSTER.completeNo}</option>
          <option value="company">{ROSTER.completeCompany}</option>
          {teams.map(({ id, name }) => (
            <option key={id} value={id}>
              {ROSTER.completeTeam(name)}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <CardPicker
        word={ROSTER.instead}
        hint={ROSTER.insteadNone}
        except={null}
        chosen={options.instead}
        onChoose={(instead) => onOptions({ ...options, instead })}
      />
      <Form.Check
        id="run-private"
        label={ROSTER.privateToo}
        checked={options.privateToo}
        onChange={({ target }) => onOptions({ ...options, privateToo: target.checked })}
      />
      <p className="note">{ROSTER.privateNote}</p>
    </fieldset>
  );
}
