'use client';
import dynamic from 'next/dynamic';
import { useId, useState, type FormEvent } from 'react';
import { lineOf, typedTicks, type Line, type TypeOf } from '@/core/card';
import type { Problem } from '@/core/errors';
import { kindIn } from '@/core/messages';
import { CARD } from '@/core/words';
import {
  isBlock,
  readBlock,
  readLabelled,
  readDetail,
  readPattern,
  recogniseLine,
  type Block,
  type Detail,
  type DetailKind,
  type PersonRecord,
  type TypedKind,
} from '@/core/record';
import { freshId } from '@/ui/record/fresh-id';
import { useCompanyDefaults } from '@/ui/studio/organisation';
import { ProblemNote } from '@/ui/studio/problem-note';

// A signature is pasted now and then.
const BlockReview = dynamic(() => import('@/ui/record/block-review').then((made) => made.BlockReview));

type Props = {
  record: PersonRecord;
  isPrivate: boolean;
  country: string;
  zone: string;
  /** The kind and label to start with, where a trade's usual line is filled. */
  wanted: { kind: DetailKind; label: string | null } | null;
  span: number;
  onAdd: (lines: Line[]) => void;
  onClose: (() => void) | null;
};

/** A row to type or paste the next line into; what it is, is recognised while it is typed. Several at once are reviewed before they become lines. */
export function AddLine({ record, isPrivate, country, zone, wanted, span, onAdd, onClose }: Props) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const field = useId();
  const [block, setBlock] = useState<Block | null>(null);
  const { patterns } = useCompanyDefaults();
  const several = isBlock(text);
  const asked = wanted && wanted.kind !== 'photo' && wanted.kind !== 'logo' ? wanted.kind : null;
  const made = asked ? null : readPattern(text, patterns, country);
  const labelled = asked || made ? null : readLabelled(text, country);
  const kind: TypedKind = asked ?? (made ? 'link' : (labelled?.kind ?? recogniseLine(text, country) ?? 'own'));

  const toLine = (detail: Detail, typeOf?: TypeOf): Line => ({
    ...lineOf(detail.id, typedTicks(detail, record, { isPrivate }, typeOf), detail),
    label: wanted?.label ?? null,
  });
  async function addAll(details: Detail[]) {
    const phones = details.some((detail) => detail.kind === 'phone');
    const typeOf = phones ? (await import('@/core/record/line-type')).lineTypeOf : undefined;
    onAdd(details.map((detail) => toLine(detail, typeOf)));
    setText('');
    setProblem(null);
  }

  function add(event: FormEvent) {
    event.preventDefault();
    if (several) return setBlock(readBlock(text, { country, zone, freshId, patterns }));
    const options = { id: freshId(), country, zone, uses: labelled?.uses, label: made?.label };
    const read = readDetail(kind, made?.url ?? labelled?.text ?? text, options);
    if (!read.ok) return setProblem(read.problem);
    return void addAll([read.value]);
  }

  return (
    <tr className="add-line">
      <td />
      <td colSpan={span - 1}>
        <form onSubmit={add}>
          <textarea
            rows={several ? 5 : 1}
            aria-label={wanted?.label ?? CARD.addLine}
            placeholder={wanted?.label ?? (wanted ? kindIn('en', wanted.kind) : CARD.addLineHint)}
            value={text}
            autoFocus={onClose !== null}
            data-add-line
            aria-invalid={problem !== null}
            aria-describedby={problem ? `${field}-problem` : undefined}
            onChange={(event) => {
              setText(event.target.value);
              setProblem(null);
            }}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && !event.shiftKey && text.trim()) add(event);
              else if (event.key === 'Enter' && !event.shiftKey) event.preventDefault();
              if (event.key === 'Escape') {
                setText('');
                onClose?.();
              }
            }}
          />
          {text.trim() && (
            <>
              <span className="also">
                {several ? CARD.severalLines : CARD.recognised(kindIn('en', kind).toLowerCase())}
              </span>
              <button type="submit" className="plain">
                {CARD.addLine}
              </button>
            </>
          )}
        </form>
        {text.trim() && <p className="also">{CARD.addLineNote}</p>}
        <ProblemNote problem={problem} id={`${field}-problem`} />
        {block && (
          <BlockReview
            block={block}
            country={country}
            zone={zone}
            name={null}
            known={record.details}
            onTake={({ details }) => {
              setBlock(null);
              void addAll(details);
            }}
            onClose={() => setBlock(null)}
          />
        )}
      </td>
    </tr>
  );
}
