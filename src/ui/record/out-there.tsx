'use client';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import type { OutThere } from '@/core/shown';
import { normalised, type Value } from '@/core/wild/value';
import { COPIES } from '@/core/words';
import { call } from '@/ui/studio/call';

/** What is out of a record's values. */
export function useOutThere(recordId: string): OutThere[] {
  const [out, setOut] = useState<OutThere[]>([]);
  useEffect(() => {
    let current = true;
    void call<{ out: OutThere[] }>(`/api/records/${recordId}/copies`).then((answer) => {
      if (current && answer.ok) setOut(answer.value.out);
    });
    return () => {
      current = false;
    };
  }, [recordId]);
  return out;
}

/** What can be dealt with comes first, the nearest at hand before the rest. */
const ORDER: OutThere['channel'][] = ['print', 'code', 'tag', 'signature', 'backdrop', 'pass', 'mail', 'file'];

type Props = {
  out: OutThere[];
  line: string;
  /** What the field says, or will say as it is being typed; null while that cannot be read. */
  value: Value | null;
  typing: boolean;
};

/** Beside a field: which copies carry another value than it says, or will once what is being typed is published. */
export function OutThereNote({ out, line, value, typing }: Props) {
  if (value === null) return null;
  const says = normalised(value);
  const other = out.filter((each) => each.line === line && each.value !== says);
  if (other.length === 0) return null;
  const kinds = ORDER.filter((channel) => other.some((each) => each.channel === channel)).map((channel) => {
    const of = other.filter((each) => each.channel === channel);
    const sum = (key: 'pieces' | 'copies') => of.reduce((total, each) => total + (each[key] ?? each.pieces), 0);
    const placements = [...new Set(of.flatMap((each) => each.placements))];
    return COPIES.kind(channel, sum('pieces'), sum('copies'), placements.slice(0, 3));
  });
  return (
    <p className="attention out-there" role={typing ? 'status' : undefined}>
      {typing ? COPIES.willCarry(kinds) : COPIES.carriesOther(kinds)}{' '}
      {!typing && <Link href={`/copies?q=${encodeURIComponent(other[0]!.value)}`}>{COPIES.see}</Link>}
    </p>
  );
}
