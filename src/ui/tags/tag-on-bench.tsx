'use client';
import { useEffect, useMemo, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { ShownTag } from '@/core/shown';
import { TAGS } from '@/core/words';
import { freshTag, TagBench, type BenchTag } from './bench';
import { deviceOver, type WebReader } from './device';
import { TagUse } from './tag-use';

type Kind = keyof typeof TAGS.benchKinds;
type Props = {
  shown: ShownTag;
  memory: Uint8Array;
  zone: string;
  onWritten: (locked: boolean) => Promise<boolean>;
};

const tagOf = (kind: Kind, room: number): BenchTag => ({
  ...freshTag(kind === 'small' ? 48 : room),
  ...{ locked: kind === 'locked', torn: kind === 'torn', other: kind === 'other' },
});

/** The ways of writing a tag, with a stand-in for the phone and the tag, where an installation is for trying out. */
export function TagOnBench({ shown, memory, zone, onWritten }: Props) {
  const bench = useMemo(() => new TagBench(), []);
  const device = useMemo(() => deviceOver(() => bench.reader() as unknown as WebReader), [bench]);
  const [kind, setKind] = useState<Kind>('fine');
  const [waits, setWaits] = useState(false);
  const { room } = shown.state;
  useEffect(() => {
    bench.lay(tagOf(kind, room));
  }, [bench, kind, room]);
  useEffect(() => {
    const told = () => setWaits(bench.waiting > 0);
    bench.addEventListener('waits', told);
    return () => bench.removeEventListener('waits', told);
  }, [bench]);
  return (
    <>
      <TagUse shown={shown} memory={memory} zone={zone} onWritten={onWritten} device={device} />
      <fieldset className="tag-bench">
        <legend className="caps">{TAGS.bench}</legend>
        <p className="note">{TAGS.benchNote}</p>
        <Form.Select
          size="sm"
          aria-label={TAGS.benchState}
          value={kind}
          onChange={({ target }) => setKind(target.value as Kind)}
        >
          {(Object.keys(TAGS.benchKinds) as Kind[]).map((each) => (
            <option key={each} value={each}>
              {TAGS.benchKinds[each]}
            </option>
          ))}
        </Form.Select>
        <Button variant="quiet" size="sm" disabled={!waits} onClick={() => bench.hold()}>
          {TAGS.benchHold}
        </Button>
      </fieldset>
    </>
  );
}
