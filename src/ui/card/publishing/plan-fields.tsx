'use client';
import { Form } from 'react-bootstrap';
import { PLAN } from '@/core/words';
import { instantAt, wallTime } from '@/core/response';

/** When a card goes out and when it ends, as its publisher types it: times of the organisation's zone, empty for none. */
export type Planned = { publishAt: string; endsAt: string; endsWith: 'resting' | 'retired' };

export function PlanFields({ plan, zone, onPlan }: { plan: Planned; zone: string; onPlan: (plan: Planned) => void }) {
  return (
    <details className="plan" open={plan.publishAt !== '' || plan.endsAt !== ''}>
      <summary>{PLAN.title}</summary>
      <div className="plan-fields">
        <Form.Group controlId="publish-at">
          <Form.Label>{PLAN.publishAt}</Form.Label>
          <Form.Control
            type="datetime-local"
            size="sm"
            value={plan.publishAt}
            onChange={({ target }) => onPlan({ ...plan, publishAt: target.value })}
          />
          <Form.Text>{PLAN.publishNote}</Form.Text>
        </Form.Group>
        <Form.Group controlId="ends-at">
          <Form.Label>{PLAN.endsAt}</Form.Label>
          <Form.Control
            type="datetime-local"
            size="sm"
            value={plan.endsAt}
            onChange={({ target }) => onPlan({ ...plan, endsAt: target.value })}
          />
        </Form.Group>
        <Form.Group controlId="ends-with">
          <Form.Label>{PLAN.endsWith}</Form.Label>
          <Form.Select
            size="sm"
            value={plan.endsWith}
            onChange={({ target }) => onPlan({ ...plan, endsWith: target.value as Planned['endsWith'] })}
          >
            <option value="resting">{PLAN.rests}</option>
            <option value="retired">{PLAN.retires}</option>
          </Form.Select>
          <Form.Text>{PLAN.endsNote(zone.replaceAll('_', ' '))}</Form.Text>
        </Form.Group>
      </div>
    </details>
  );
}

/** A time of the organisation's zone as the field has it from an instant, and back; an empty one is none. */
export const fieldTime = (zone: string, iso: string | null): string => (iso ? wallTime(Date.parse(iso), zone) : '');
export const instantOf = (zone: string, typed: string): string | null =>
  typed ? new Date(instantAt(typed, zone)).toISOString() : null;
