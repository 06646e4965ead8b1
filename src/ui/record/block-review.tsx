'use client';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { kindIn } from '@/core/messages';
import { RECORD } from '@/core/words';
import {
  defaultLabel,
  isKnown,
  readDetail,
  shownValue,
  TYPED_KINDS,
  type Block,
  type Detail,
  type TypedKind,
} from '@/core/record';
import { freshId } from './fresh-id';

type Row = { key: string; take: boolean; text: string; as: TypedKind | 'name'; detail: Detail | null };

/** What a pasted signature was taken apart into: each piece can be left out or read as something else before it comes in. */
export function BlockReview({
  block,
  country,
  zone,
  name,
  known,
  onTake,
  onClose,
}: {
  block: Block;
  country: string;
  zone: string;
  /** The name that stands there already; null where none can be taken. */
  name: string | null;
  /** What is there already is not offered again. */
  known: Detail[];
  onTake: (taken: { name: string | null; details: Detail[] }) => void;
  onClose: () => void;
}) {
  const fresh = block.details.filter((detail) => !isKnown(known, detail));
  const [rows, setRows] = useState<Row[]>(() => [
    ...(block.name && name !== null && block.name !== name
      ? [{ key: 'name', take: !name, text: block.name, as: 'name' as const, detail: null }]
      : []),
    ...fresh.map((detail) => ({
      key: detail.id,
      take: true,
      text: shownValue(detail),
      as: detail.kind as TypedKind,
      detail,
    })),
    ...block.left.map((text) => ({ key: freshId(), take: false, text, as: 'own' as const, detail: null })),
  ]);
  const put = (key: string, change: Partial<Row>) =>
    setRows(rows.map((row) => (row.key === key ? { ...row, ...change } : row)));
  const read = (row: Row): Detail | null => {
    if (row.as === 'name') return null;
    if (row.detail?.kind === row.as) return row.detail;
    const made = readDetail(row.as, row.text, { id: freshId(), country, zone });
    return made.ok ? made.value : null;
  };
  const taken = rows.filter((row) => row.take && (row.as === 'name' || read(row)));
  return (
    <Modal show onHide={onClose} size="lg" animation={false} aria-labelledby="block-title">
      <Modal.Header closeButton>
        <Modal.Title id="block-title">{RECORD.blockTitle}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p className="finding">{RECORD.blockText}</p>
        <table className="rows">
          <tbody>
            {rows.map((row) => {
              const detail = read(row);
              return (
                <tr key={row.key}>
                  <td>
                    <input
                      type="checkbox"
                      aria-label={RECORD.takeIn(row.text)}
                      checked={row.take}
                      onChange={(event) => put(row.key, { take: event.target.checked })}
                    />
                  </td>
                  <td>
                    <Form.Select
                      size="sm"
                      aria-label={RECORD.readAs(row.text)}
                      value={row.as}
                      onChange={(event) => put(row.key, { as: event.target.value as Row['as'], take: true })}
                    >
                      {name !== null && <option value="name">{RECORD.theName}</option>}
                      {TYPED_KINDS.map((kind) => (
                        <option key={kind} value={kind}>
                          {kind === 'own' ? RECORD.ofMyOwn : kindIn('en', kind)}
                        </option>
                      ))}
                    </Form.Select>
                  </td>
                  <td>
                    {row.text}
                    {detail && row.detail && <span className="also">{defaultLabel(detail)}</span>}
                    {!detail && row.as !== 'name' && <span className="problem">{RECORD.notThat}</span>}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        {fresh.length < block.details.length && (
          <p className="note mt-3 mb-0">{RECORD.knownAlready(block.details.length - fresh.length)}</p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {RECORD.leaveBlock}
        </Button>
        <Button
          disabled={taken.length === 0}
          onClick={() =>
            onTake({
              name: taken.find(({ as }) => as === 'name')?.text ?? null,
              details: taken.flatMap((row) => read(row) ?? []),
            })
          }
        >
          {RECORD.takeSome(taken.length)}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
