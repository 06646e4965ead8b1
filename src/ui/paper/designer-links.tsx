'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import type { ShownDesignerLink } from '@/core/shown';
import { DESIGNER } from '@/core/words';
import { call } from '@/ui/studio/call';
import { CopyButton } from '@/ui/studio/copy-button';
import { ProblemNote } from '@/ui/studio/problem-note';

const DAYS = [7, 14, 30, 60];

/** Links by which a designer fetches what a piece is made of: made, told once, ended. */
export function DesignerLinks({ id, first }: { id: string; first: ShownDesignerLink[] }) {
  const [links, setLinks] = useState(first);
  const [url, setUrl] = useState<string | null>(null);
  const [days, setDays] = useState(14);
  const [problem, setProblem] = useState<Problem | null>(null);
  const path = `/api/hand-outs/${id}/designer`;
  async function make() {
    const answer = await call<{ url: string; links: ShownDesignerLink[] }>(path, { json: { days } });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    setLinks(answer.value.links);
    setUrl(answer.value.url);
  }
  async function end(link: ShownDesignerLink) {
    const answer = await call<{ links: ShownDesignerLink[] }>(`${path}/${link.id}`, { method: 'DELETE' });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setLinks(answer.value.links);
  }
  return (
    <>
      <p className="caps">{DESIGNER.heading}</p>
      <p className="note">{DESIGNER.note}</p>
      <div className="designer-make">
        <Form.Select
          aria-label={DESIGNER.days}
          size="sm"
          value={days}
          onChange={({ target }) => setDays(Number(target.value))}
        >
          {DAYS.map((each) => (
            <option key={each} value={each}>
              {DESIGNER.forDays(each)}
            </option>
          ))}
        </Form.Select>
        <Button variant="quiet" size="sm" onClick={() => void make()}>
          {DESIGNER.make}
        </Button>
      </div>
      {url && (
        <div role="status" className="designer-link">
          <p className="mono">{url}</p>
          <CopyButton text={url}>{DESIGNER.copy}</CopyButton>
          <p className="note">{DESIGNER.once}</p>
        </div>
      )}
      <ul className="paper-runs">
        {links.map((link) => (
          <li key={link.id} className="designer-row">
            <span className={link.over ? 'note' : ''}>
              {DESIGNER.told(link.ends.slice(0, 10), link.fetched, link.over)}
            </span>
            <button
              type="button"
              className="plain"
              aria-label={DESIGNER.end(link.ends.slice(0, 10))}
              onClick={() => void end(link)}
            >
              ✕
            </button>
          </li>
        ))}
      </ul>
      <ProblemNote problem={problem} />
    </>
  );
}
