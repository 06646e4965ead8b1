'use client';
import { useEffect, useState } from 'react';
import { Modal } from 'react-bootstrap';
import type { Near } from '@/core/code';
import type { Problem } from '@/core/errors';
import { CARDS, CODES, FRAME } from '@/core/words';
import { call } from '@/ui/studio/call';
import { CopyButton } from '@/ui/studio/copy-button';
import { ProblemNote } from '@/ui/studio/problem-note';

type Preview = { url: string; svg: string; expires: string; near: Near | null };

/** A private address of the draft, with its code, for one's own phone. */
export function PreviewDialog({
  card,
  flush,
  onClose,
}: {
  card: string;
  flush: () => Promise<number | null>;
  onClose: () => void;
}) {
  const [preview, setPreview] = useState<Preview | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    let current = true;
    void flush()
      .then(() => call<Preview>(`/api/cards/${card}/preview`, { method: 'POST' }))
      .then((answer) => {
        if (!current) return;
        if (answer.ok) setPreview(answer.value);
        else setProblem(answer.problem);
      });
    return () => {
      current = false;
    };
  }, [card, flush]);
  const until = preview
    ? new Date(preview.expires).toLocaleString('en-GB', { weekday: 'long', hour: '2-digit', minute: '2-digit' })
    : '';
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="preview-title" className="code-dialog">
      <Modal.Header closeButton>
        <Modal.Title id="preview-title">{CARDS.previewTitle}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <ProblemNote problem={problem} />
        {preview ? (
          <>
            <img
              className="code"
              src={`data:image/svg+xml;utf8,${encodeURIComponent(preview.svg)}`}
              alt={CARDS.previewCode}
            />
            {preview.near && (
              <p className="attention">
                {CODES.near[preview.near]} {CODES.nearHow}
              </p>
            )}
            <p className="finding">{CARDS.previewText(until)}</p>
            <a className="mono" href={preview.url} target="_blank" rel="noreferrer">
              {preview.url}
            </a>
          </>
        ) : (
          !problem && <p>{CARDS.previewBusy}</p>
        )}
      </Modal.Body>
      <Modal.Footer>{preview && <CopyButton text={preview.url}>{FRAME.copyLink}</CopyButton>}</Modal.Footer>
    </Modal>
  );
}
