'use client';
import { leaveOutFor, tagOf } from '@/core/code';
import type { Composition } from '@/core/card';
import { TAG_ROOM } from '@/core/ndef';
import type { PersonRecord } from '@/core/record';
import { TAGS } from '@/core/words';
import { LeavingLines } from '@/ui/hand-outs/leaving';

type Props = { composition: Composition; record: PersonRecord; link: string };

/** A contact that a tag would carry: how many bytes it takes of each size, and what of it is private. */
export function ContactInTag({ composition, record, link }: Props) {
  const memory = tagOf({ what: 'contact', form: 'vCard 3.0', link: true }, composition, { link });
  const bytes = memory.ok ? memory.value.length : 0;
  const leaveOut = leaveOutFor(composition, { link }, TAG_ROOM[2]);
  return (
    <>
      <ul className="tag-sizes">
        {TAG_ROOM.map((room) => (
          <li key={room} className={bytes <= room ? '' : 'failed'}>
            <span aria-hidden="true">{bytes <= room ? '✓' : '✕'}</span> {TAGS.sizes[room]}: {TAGS.bytes(bytes, room)}
          </li>
        ))}
      </ul>
      {leaveOut !== null && leaveOut.length > 0 && <p className="attention">{TAGS.leaveOut(leaveOut)}</p>}
      {leaveOut === null && <p className="attention">{TAGS.fitsNever}</p>}
      <LeavingLines lines={composition.lines.filter(({ on }) => on.includes('tag'))} record={record} />
    </>
  );
}
