'use client';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { pictureOn, languagesOf, type Channel, type Composition, type Draft } from '@/core/card';
import { wordingOf, type Problem } from '@/core/errors';
import { applyHouseStyle } from '@/core/house';
import { CARD, CHANNEL_WORDS } from '@/core/words';
import { languageName, type Language } from '@/core/language';
import type { PersonRecord } from '@/core/record';
import { languageOf, specimenPage, type Hold, type SpecimenOf } from '@/core/specimen';
import type { VcardVersion } from '@/core/vcard';
import type { CardOnTable } from '@/ui/card/card-on-table';
import { PageView } from './page-view';
import { ProofFoot } from './proof-foot';
import { usePlates } from './use-plates';
import { useProof } from './use-proof';
import { useWords } from './use-words';

// What another channel's view needs is loaded when it is first looked at.
const CodeView = dynamic(() => import('./code-view').then((made) => made.CodeView));
const ContactView = dynamic(() => import('./contact-view').then((made) => made.ContactView));
const PaperView = dynamic(() => import('./paper-view').then((made) => made.PaperView));
const SaidView = dynamic(() => import('./said-view').then((made) => made.SaidView));
const SignatureView = dynamic(() => import('./signature-view').then((made) => made.SignatureView));
const TagView = dynamic(() => import('./tag-view').then((made) => made.TagView));

type Props = {
  channel: Channel;
  composition: Composition | null;
  draft: Draft;
  record: PersonRecord;
  country: string;
  card: CardOnTable;
  /** The version of the card that is saved: what the server draws. */
  saved: number;
  problem: Problem | null;
};

const NOTES: Record<Channel, (version: VcardVersion) => string> = {
  page: () => CARD.pageNote,
  file: (version) => CARD.fileNote(version),
  code: () => CARD.codeNote(25),
  tag: () => CARD.tagNote,
  signature: () => CARD.signatureNote,
  print: () => CARD.paperNote,
  backdrop: () => CARD.backdropNote,
  pass: () => CARD.passNote,
};

/** What the recipient of one channel gets, for real: made by the functions that serve recipients. Its foot is the proof. */
export function Specimen({ channel, composition, draft, record, country, card, saved, problem }: Props) {
  const [version, setVersion] = useState<VcardVersion>('3.0');
  const [hold, setHold] = useState<Hold>('frozen');
  const [now] = useState(() => Date.now());
  const [chosen, setLanguage] = useState<Language | null>(null);
  // Drawn on the server, from what is saved; a card that shows no drawn picture asks for none.
  const drawnAt = draft.opens.first === 'picture' && !draft.opens.picture ? saved : 0;
  const shown = useMemo(() => composition && applyHouseStyle(composition, card.house), [composition, card.house]);
  const languages = composition ? languagesOf(composition) : [];
  const language = languages.length > 1 && chosen && languages.includes(chosen) ? chosen : null;
  const { photo, logo } = shown ? inFileOf(shown) : NOTHING_IN_FILE;
  const plates = usePlates(shown, card.house);
  const of = useMemo(
    () => ({
      ...specimenOf(channel, hold, version, card, { photo, logo }),
      drawn: drawnOf(card.id, drawnAt),
      language,
      now,
      plates,
    }),
    [channel, hold, version, card, photo, logo, drawnAt, language, now, plates],
  );
  const proof = useProof(record, draft, country, of);
  return (
    <aside className={`specimen of-${channel}`} aria-label={CARD.specimenOf(channel)}>
      <div className="specimen-title">
        <span className="caps">{CHANNEL_WORDS[channel]}</span>
        <span className="mono">{NOTES[channel](version)}</span>
      </div>
      {channel === 'page' && languages.length > 1 && (
        <div className="choice holds" role="group" aria-label={CARD.showIn}>
          {languages.map((each) => (
            <button
              key={each}
              type="button"
              aria-pressed={each === (language ?? languages[0])}
              onClick={() => setLanguage(each)}
            >
              {languageName(each)}
            </button>
          ))}
        </div>
      )}
      {(channel === 'code' || channel === 'tag') && (
        <div className="choice holds" role="group" aria-label={CARD.showAs}>
          {(['frozen', 'live'] as const).map((each) => (
            <button
              key={each}
              type="button"
              aria-pressed={each === hold}
              disabled={each === 'live' && !of.link}
              onClick={() => setHold(each)}
            >
              {CARD[each]}
            </button>
          ))}
        </div>
      )}
      <div className="stage">
        {problem || !shown ? (
          <p className="problem">{problem && wordingOf(problem)}</p>
        ) : (
          <Shown of={of} composition={shown} card={card} saved={saved} version={version} onVersion={setVersion} />
        )}
      </div>
      <ProofFoot proof={proof} />
    </aside>
  );
}

function Shown({
  of,
  composition,
  card,
  saved,
  version,
  onVersion,
}: {
  of: SpecimenOf;
  composition: Composition;
  card: CardOnTable;
  saved: number;
  version: VcardVersion;
  onVersion: (version: VcardVersion) => void;
}) {
  if (of.channel === 'page') return <Page composition={composition} of={of} />;
  if (of.channel === 'code') return <CodeView composition={composition} of={of} />;
  if (of.channel === 'tag') return <TagView composition={composition} of={of} />;
  if (of.channel === 'backdrop' || of.channel === 'pass')
    return <SaidView composition={composition} channel={of.channel} of={of} />;
  if (of.channel === 'print') return <PaperView card={card.id} version={saved} />;
  if (of.channel === 'signature') return <SignatureView composition={composition} of={of} />;
  return (
    <ContactView
      card={card.id}
      composition={composition}
      of={of}
      photo={of.file.photo?.base64 ?? null}
      version={version}
      onVersion={onVersion}
    />
  );
}

function Page({ composition, of }: { composition: Composition; of: SpecimenOf }) {
  const worded = useWords(languageOf(composition, of));
  const page = useMemo(() => (worded ? specimenPage(composition, of) : null), [worded, composition, of]);
  return page && <PageView page={page} />;
}

/** The pictures that its contact file carries, by their hashes. */
type InFile = { photo: string | undefined; logo: string | undefined };
const NOTHING_IN_FILE: InFile = { photo: undefined, logo: undefined };
const inFileOf = (composition: Composition): InFile => ({
  photo: pictureOn(composition, 'photo', 'file'),
  logo: pictureOn(composition, 'logo', 'file'),
});

const drawnOf = (card: string, version: number): string => `/api/cards/${card}/faces/picture.*?version=${version}`;

function specimenOf(
  channel: Channel,
  hold: Hold,
  version: VcardVersion,
  card: CardOnTable,
  inFile: InFile,
): Omit<SpecimenOf, 'language' | 'now' | 'drawn' | 'plates'> {
  const handOut = card.handOuts.find((each) => each.channel === channel) ?? card.handOuts[0];
  return {
    channel,
    hold,
    house: card.house,
    link: handOut ? `${card.publicUrl}/h/${handOut.code}` : null,
    file: {
      version,
      uid: `urn:uuid:${card.id}`,
      revised: card.revision?.publishedAt ?? '2026-01-01T00:00:00Z',
      source: card.address ? `${card.publicUrl}/c/${card.address}` : null,
      photo: card.pictures?.find(({ hash }) => hash === inFile.photo) ?? null,
      logo: card.pictures?.find(({ hash }) => hash === inFile.logo) ?? null,
    },
  };
}
