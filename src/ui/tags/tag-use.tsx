'use client';
import { Button } from 'react-bootstrap';
import type { ShownTag } from '@/core/shown';
import { TAGS } from '@/core/words';
import { CopyButton } from '@/ui/studio/copy-button';
import { shortDayIn } from '@/ui/studio/instant';
import type { TagDevice } from './device';
import { TagTest } from './tag-test';
import { TagWriter } from './tag-writer';
import { useOwnDevice } from './use-own-device';

type Props = {
  shown: ShownTag;
  memory: Uint8Array;
  zone: string;
  /** Notes that it was written; answers whether that is noted. */
  onWritten: (locked: boolean) => Promise<boolean>;
  /** What stands in for a phone; null for the browser's own. */
  device: TagDevice | null;
};

/** The ways of writing a tag: here where the browser can, else by a program; and whether a tap arrives. */
export function TagUse({ shown, memory, zone, onWritten, device }: Props) {
  const { state, proof } = shown;
  const own = useOwnDevice();
  const writer = device ?? own;
  if (!proof.passed) return null;
  return (
    <>
      {state.writtenAt && (
        <p>
          <span aria-hidden="true">✓</span> {TAGS.writtenOn(shortDayIn(zone, state.writtenAt), state.writes)}
        </p>
      )}
      {state.locked && <p className="attention">{TAGS.isLocked}</p>}
      {shown.mayWrite && !state.locked && writer && <TagWriter memory={memory} device={writer} onWritten={onWritten} />}
      {!writer && (
        <div className="by-program">
          <p className="caps">{TAGS.notHere}</p>
          <p className="note">{TAGS.notHereNote}</p>
          <CopyButton variant="primary" text={addressIn(shown)}>
            {TAGS.copyAddress}
          </CopyButton>
          <ol className="steps">
            {TAGS.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
          {shown.mayWrite && !state.locked && (
            <div className="pair">
              <Button variant="quiet" size="sm" onClick={() => void onWritten(false)}>
                {TAGS.written}
              </Button>
              <Button variant="quiet" size="sm" onClick={() => void onWritten(true)}>
                {TAGS.writtenLocked}
              </Button>
            </div>
          )}
        </div>
      )}
      <TagTest shown={shown} />
    </>
  );
}

/** The address that a program writes as the first record. */
const addressIn = ({ link, content }: ShownTag): string => (content.what === 'save' ? `${link}.vcf` : link);
