'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { type Channel, type Composition } from '@/core/card';
import { wordingOf, type Problem } from '@/core/errors';
import { CARD, CHANNEL_WORDS } from '@/core/messages';
import { renderPage } from '@/core/page';
import type { Proof } from '@/core/proof';
import { writeContactFile, type ContactFileContext, type VcardVersion } from '@/core/vcard';
import type { CardOnTable } from './card-on-table';
import { ContactView } from './contact-view';
import { compressedSize } from './compressed-size';

type Props = {
  channel: Channel;
  composition: Composition | null;
  withheld: string[];
  card: CardOnTable;
  problem: Problem | null;
};

/** Headers of an answer with the page: content type, policy, caching and the rest, rounded up. */
const HEADER_BYTES = 900;

/** What the recipient of one channel gets, for real: made by the functions that serve recipients. Its foot is the proof. */
export function Specimen({ channel, composition, withheld, card, problem }: Props) {
  const [version, setVersion] = useState<VcardVersion>('3.0');
  const output = useMemo(
    () => (composition ? outputOf(channel, composition, card, version) : ''),
    [channel, composition, card, version],
  );
  const [proof, setProof] = useState<Proof | null>(null);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(async () => {
      if (!composition) return;
      // The proof brings a reader of its own along; it is loaded when first needed.
      const { proveContactFile, provePage } = await import('@/core/proof');
      const made =
        channel === 'page'
          ? provePage(output, (await compressedSize(output)) + HEADER_BYTES, composition, withheld)
          : proveContactFile(output, composition, withheld, contextOf(card, version));
      if (current) setProof(made);
    }, 120);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [channel, composition, output, withheld, card, version]);

  return (
    <aside className="specimen" aria-label={CARD.specimenOf(channel)}>
      <div className="specimen-title">
        <span className="caps">{CHANNEL_WORDS[channel]}</span>
        <span className="mono">{channel === 'page' ? CARD.pageNote : CARD.fileNote(version)}</span>
      </div>
      <div className="stage">
        {problem ? (
          <p className="problem">{wordingOf(problem)}</p>
        ) : channel === 'page' ? (
          <PageView html={output} />
        ) : (
          <ContactView card={card.id} file={output} photo={card.photo} version={version} onVersion={setVersion} />
        )}
      </div>
      <div className="proof" role="status">
        {proof ? (
          <p>
            <strong className={proof.passed ? 'passed' : 'failed'}>
              <span aria-hidden="true">{proof.passed ? '✓' : '✕'}</span> {proof.passed ? CARD.proven : CARD.proofFails}
            </strong>{' '}
            {proof.checks.map((check) => check.finding).join(' ')}
          </p>
        ) : (
          <p>{CARD.readingBack}</p>
        )}
        {proof && proof.warnings.length > 0 && (
          <details>
            <summary>{CARD.warnings(proof.warnings.length)}</summary>
            <ul>
              {proof.warnings.map(({ family, finding, source }) => (
                <li key={finding}>{CARD.warning(family, finding, source)}</li>
              ))}
            </ul>
          </details>
        )}
      </div>
    </aside>
  );
}

const contextOf = (card: CardOnTable, version: VcardVersion): ContactFileContext => ({
  version,
  uid: `urn:uuid:${card.id}`,
  revised: card.revision?.publishedAt ?? '2026-01-01T00:00:00Z',
  source: card.address ? `${card.publicUrl}/c/${card.address}` : null,
  photo: card.photo ? { base64: card.photo, mediaType: 'image/jpeg' } : null,
});

function outputOf(channel: Channel, composition: Composition, card: CardOnTable, version: VcardVersion): string {
  if (channel === 'page') {
    const photo = composition.lines.find(({ detail }) => detail.kind === 'photo')?.detail;
    const picture = photo?.kind === 'photo' ? `/api/pictures/${photo.picture}` : null;
    return renderPage(composition, {
      contactFile: '#',
      taps: null,
      photo: picture,
      canonical: null,
      language: composition.language ?? 'en',
    });
  }
  return writeContactFile(composition, contextOf(card, version));
}

/** The page in a frame that can run nothing; it shows itself at its own height. */
function PageView({ html }: { html: string }) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(480);
  const measure = () => {
    const parts = frame.current?.contentDocument?.querySelectorAll('main > *') ?? [];
    setHeight(Math.max(360, ...Array.from(parts, (part) => Math.ceil(part.getBoundingClientRect().bottom))));
  };
  return (
    <iframe
      ref={frame}
      title={CARD.pageFrame}
      sandbox="allow-same-origin"
      srcDoc={html}
      onLoad={measure}
      style={{ height }}
      tabIndex={-1}
    />
  );
}
