'use client';
import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import { Button } from 'react-bootstrap';
import type { RowTag } from '@/core/shown';
import { TAGS } from '@/core/words';
import { CopyButton } from '@/ui/studio/copy-button';
import { bytesOf, type TagDevice } from './device';
import { TagWriter } from './tag-writer';
import { useOwnDevice } from './use-own-device';

const OnBench = dynamic(() => import('./on-bench').then((made) => made.OnBench));

type Props = { tag: RowTag; bench: boolean; onWritten: (locked: boolean) => Promise<boolean> };

/** Writes the tag of one person in the row; then it is the next one's turn. */
export function RowWriter({ tag, bench, onWritten }: Props) {
  const own = useOwnDevice();
  const memory = useMemo(() => bytesOf(tag.memory), [tag.memory]);
  const writer = (device: TagDevice) => <TagWriter memory={memory} device={device} onWritten={onWritten} />;
  return (
    <>
      <p className="caps">{TAGS.rows.now}</p>
      <h2>
        {tag.number !== null && <span className="mono">{tag.number} </span>}
        {tag.person}
      </h2>
      <p className="note">{tag.audience}</p>
      {bench ? (
        <OnBench room={tag.room} of={tag.id}>
          {writer}
        </OnBench>
      ) : own ? (
        writer(own)
      ) : (
        <div className="by-program">
          <p className="note">
            {TAGS.notHere}. {TAGS.notHereNote}
          </p>
          <CopyButton variant="primary" text={tag.what === 'save' ? `${tag.link}.vcf` : tag.link}>
            {TAGS.copyAddress}
          </CopyButton>
          <Button variant="quiet" onClick={() => void onWritten(false)}>
            {TAGS.rows.mark}
          </Button>
        </div>
      )}
    </>
  );
}
