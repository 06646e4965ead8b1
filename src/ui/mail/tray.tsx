'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { ShownMail } from '@/core/shown';
import { TRAY } from '@/core/words';
import { instantIn } from '@/ui/studio/instant';

type View = keyof typeof TRAY.views;

/** What a tray kept: a list, and the mail that is chosen, formatted, as text and with its headers. */
export function Tray({ mails, timeZone }: { mails: ShownMail[]; timeZone: string }) {
  const router = useRouter();
  const [chosen, setChosen] = useState<string | null>(null);
  const mail = mails.find(({ id }) => id === chosen) ?? mails[0];
  return (
    <section className="tray-screen">
      <h1>{TRAY.title}</h1>
      <button type="button" className="btn btn-quiet btn-sm" onClick={() => router.refresh()}>
        {TRAY.again}
      </button>
      <p className="note">{mails.length === 0 ? TRAY.none : TRAY.note}</p>
      {mail && (
        <div className="tray-mails">
          <ul aria-label={TRAY.list}>
            {mails.map(({ id, at, to, subject }) => (
              <li key={id}>
                <button type="button" aria-current={id === mail.id} onClick={() => setChosen(id)}>
                  <strong>{subject}</strong>
                  <span>{to.join(', ')}</span>
                  <time dateTime={at}>{instantIn(timeZone, at)}</time>
                </button>
              </li>
            ))}
          </ul>
          <Mail key={mail.id} mail={mail} />
        </div>
      )}
    </section>
  );
}

function Mail({ mail }: { mail: ShownMail }) {
  const [view, setView] = useState<View>(mail.html ? 'html' : 'text');
  return (
    <article className="tray-mail" aria-label={mail.subject}>
      <h2>{mail.subject}</h2>
      <p className="note">
        {TRAY.to} {mail.to.join(', ')}
      </p>
      <div className="pair" role="group" aria-label={TRAY.view}>
        {(Object.keys(TRAY.views) as View[]).map((each) => (
          <button
            key={each}
            type="button"
            className="btn btn-quiet btn-sm"
            aria-pressed={view === each}
            disabled={each === 'html' && !mail.html}
            onClick={() => setView(each)}
          >
            {TRAY.views[each]}
          </button>
        ))}
      </div>
      {/* Nothing of a mail runs here or fetches anything: the frame has no rights at all. */}
      {view === 'html' && <iframe title={TRAY.frame} sandbox="" srcDoc={mail.html} />}
      {view === 'text' && <pre tabIndex={0}>{mail.text}</pre>}
      {view === 'headers' && (
        <dl className="mono">
          {mail.headers.map(([name, value], at) => (
            <div key={at}>
              <dt>{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      )}
      {mail.attachments.length > 0 && (
        <p>
          <span className="caps">{TRAY.attached}</span>{' '}
          {mail.attachments.map(({ name, type, bytes }) => `${name} (${type}, ${TRAY.bytes(bytes)})`).join(' · ')}
        </p>
      )}
    </article>
  );
}
