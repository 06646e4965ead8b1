'use client';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { Button, Form } from 'react-bootstrap';
import { TAGS } from '@/core/words';
import { freshTag, TagBench, type BenchTag } from './bench';
import { deviceOver, type TagDevice, type WebReader } from './device';

type Kind = keyof typeof TAGS.benchKinds;

const tagOf = (kind: Kind, room: number): BenchTag => ({
  ...freshTag(kind === 'small' ? 48 : room),
  ...{ locked: kind === 'locked', torn: kind === 'torn', other: kind === 'other' },
});

/** A stand-in for the phone and the tag, where an installation is for trying out; `of` names the tag that is meant, each a fresh one. */
export function OnBench({
  room,
  of,
  children,
}: {
  room: number;
  of: string;
  children: (device: TagDevice) => ReactNode;
}) {
  const bench = useMemo(() => new TagBench(), []);
  const device = useMemo(() => deviceOver(() => bench.reader() as unknown as WebReader), [bench]);
  const [kind, setKind] = useState<Kind>('fine');
  const [waits, setWaits] = useState(false);
  useEffect(() => {
    bench.lay(tagOf(kind, room));
  }, [bench, kind, room, of]);
  useEffect(() => {
    const told = () => setWaits(bench.waiting > 0);
    bench.addEventListener('waits', told);
    return () => bench.removeEventListener('waits', told);
  }, [bench]);
  return (
    <>
      {children(device)}
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
