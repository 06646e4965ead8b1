'use client';
import { Form } from 'react-bootstrap';
import { PLAN } from '@/core/messages';

/** When a card goes out and when it ends, as its publisher types it: local times of their own zone, empty for none. */
export type Planned = { publishAt: string; endsAt: string; endsWith: 'resting' | 'retired' };

export function PlanFields({ plan, onPlan }: { plan: Planned; onPlan: (plan: Planned) => void }) {
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
          <Form.Text>{PLAN.endsNote}</Form.Text>
        </Form.Group>
      </div>
    </details>
  );
}

/** A local time as the field has it (minutes) from an instant, and back; an empty one is none. */
export const localTime = (iso: string | null): string => {
  if (!iso) return '';
  const at = new Date(iso);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
};
export const instantOf = (local: string): string | null => (local ? new Date(local).toISOString() : null);
