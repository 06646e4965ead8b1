'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { MailAllowed, ShownContact, Way } from '@/core/shown';
import { REFER } from '@/core/words';
import { call } from '@/ui/studio/call';
import { CopyButton } from '@/ui/studio/copy-button';
import { saveText } from '@/ui/studio/save-text';
import { instantIn } from '@/ui/studio/instant';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

const DAYS = [1, 7, 30, LIMITS.referralDays];
type Props = { contact: ShownContact; zone: string; mail: MailAllowed; onPassed: () => void };

/** Passes on what is ticked: as a file, by mail, or by a link that ends. Private lines that go along are named first. */
export function PassOn({ contact, zone, mail, onPassed }: Props) {
  const [way, setWay] = useState<Way>('mail');
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState('');
  const [busy, setBusy] = useState(false);
  const goes = contact.lines.filter(({ ticked }) => ticked);
  const leaving = goes.filter(({ privacy }) => privacy);
  async function pass<T>(json: { way: Way } & Record<string, unknown>): Promise<T | null> {
    setBusy(true);
    setTold('');
    const answer = await call<T>(`/api/refer/${contact.id}/passed`, { json });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return null;
    onPassed();
    return answer.value;
  }
  async function file() {
    const made = await pass<{ text: string; fileName: string }>({ way: 'file' });
    if (made) saveText(made.fileName, 'text/vcard', made.text);
  }
  const shared = { busy: busy || goes.length === 0, problem, pass };
  return (
    <section className="refer-pass" aria-labelledby="refer-how">
      <h2 className="caps" id="refer-how">
        {REFER.how}
      </h2>
      <p>{goes.length === 0 ? <span className="attention">{REFER.nothing}</span> : REFER.count(goes.length)}</p>
      {leaving.length > 0 && (
        <div className="attention" role="status">
          {REFER.leaves}
          <ul>
            {leaving.map(({ id, value }) => (
              <li key={id}>{value}</li>
            ))}
          </ul>
        </div>
      )}
      <div className="choice" role="group" aria-label={REFER.how}>
        {(['mail', 'file', 'link'] as const).map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={way === each}
            onClick={() => {
              setWay(each);
              setProblem(null);
            }}
          >
            {{ mail: REFER.mail, file: REFER.file, link: REFER.byLink }[each]}
          </button>
        ))}
      </div>
      {way === 'file' && (
        <>
          <p className="note">{REFER.fileNote}</p>
          <ProblemNote problem={problem} />
          <Button disabled={shared.busy} onClick={() => void file()}>
            {REFER.file}
          </Button>
        </>
      )}
      {way === 'mail' && <ByMail contact={contact} mail={mail} {...shared} onTold={setTold} />}
      {way === 'link' && <ByLink zone={zone} {...shared} />}
      <p role="status">{told}</p>
    </section>
  );
}

type Passing = {
  busy: boolean;
  problem: Problem | null;
  pass: <T>(json: { way: Way } & Record<string, unknown>) => Promise<T | null>;
};

function ByMail({
  contact,
  mail,
  busy,
  problem,
  pass,
  onTold,
}: Passing & { contact: ShownContact; mail: MailAllowed; onTold: (told: string) => void }) {
  const [to, setTo] = useState('');
  const [name, setName] = useState('');
  const [own, setOwn] = useState<string | null>(null);
  const [copy, setCopy] = useState(false);
  const note = own ?? REFER.first(name.trim().split(' ')[0] ?? '', contact.name);
  const [address] = contact.emails;
  const ofEmail = problem?.code === 'EMAIL_UNREADABLE';
  async function send(event: FormEvent) {
    event.preventDefault();
    const sent = await pass({ way: 'mail', to, name, note, copyTo: copy && address ? address : null });
    if (!sent) return;
    onTold(REFER.sent(to));
    setTo('');
    setName('');
  }
  return (
    <Form onSubmit={(event) => void send(event)} noValidate>
      <p className="note">{REFER.mailNote}</p>
      <Form.Group controlId="refer-to">
        <Form.Label>{REFER.to}</Form.Label>
        <Form.Control
          type="email"
          value={to}
          onChange={({ target }) => setTo(target.value)}
          {...invalid('refer-mail-problem', ofEmail)}
        />
        {ofEmail && <ProblemNote problem={problem} id="refer-mail-problem" />}
      </Form.Group>
      <Form.Group controlId="refer-to-name">
        <Form.Label>{REFER.toName}</Form.Label>
        <Form.Control value={name} maxLength={LIMITS.name} onChange={({ target }) => setName(target.value)} />
      </Form.Group>
      <Form.Group controlId="refer-note">
        <Form.Label>{REFER.note}</Form.Label>
        <Form.Control
          as="textarea"
          rows={5}
          value={note}
          maxLength={LIMITS.text}
          onChange={({ target }) => setOwn(target.value)}
        />
      </Form.Group>
      {address && (
        <label>
          <input type="checkbox" checked={copy} onChange={({ target }) => setCopy(target.checked)} />{' '}
          {REFER.copy(address)}
        </label>
      )}
      {mail !== 'yes' && <p className="attention">{REFER[mail]}</p>}
      {!ofEmail && <ProblemNote problem={problem} />}
      <Button type="submit" disabled={busy || mail !== 'yes' || !to.trim()}>
        {REFER.send}
      </Button>
    </Form>
  );
}

function ByLink({ zone, busy, problem, pass }: Passing & { zone: string }) {
  const [days, setDays] = useState(7);
  const [link, setLink] = useState<{ url: string; ends: string } | null>(null);
  return (
    <>
      <p className="note">{REFER.linkNote}</p>
      <Form.Group controlId="refer-days">
        <Form.Label>{REFER.days}</Form.Label>
        <Form.Select value={days} onChange={({ target }) => setDays(Number(target.value))}>
          {DAYS.map((each) => (
            <option key={each} value={each}>
              {REFER.day(each)}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <ProblemNote problem={problem} />
      <Button disabled={busy} onClick={async () => setLink(await pass({ way: 'link', days }))}>
        {REFER.byLink}
      </Button>
      {link && (
        <div className="refer-link">
          <span className="mono">{link.url}</span>
          <span className="note">{REFER.until(instantIn(zone, link.ends))}</span>
          <CopyButton text={link.url}>{REFER.copyLink}</CopyButton>
        </div>
      )}
    </>
  );
}
