'use client';
import { useState, useSyncExternalStore } from 'react';
import { Form } from 'react-bootstrap';
import type { ShownCode } from '@/core/shown';
import { CODES, FRAME } from '@/core/words';

type Props = {
  code: ShownCode;
  widthMm: number;
  onWidth: (mm: number) => void;
  /** The printed width that is read from a distance, both in millimetres. */
  widthFor: (distanceMm: number) => number;
  svg: string | null;
  /** Whether what stands on the screen is kept: files are made of that. */
  ready: boolean;
  /** A file was taken out. */
  onTaken: () => void;
};

const FORMATS = [
  ['svg', 'SVG'],
  ['pdf', 'PDF'],
  ['png', 'PNG'],
  ['jpg', 'JPEG'],
] as const;

/** The files of a code at a printed width, with its margin; a picture for the clipboard and for the photo library. */
export function Downloads({ code, widthMm, onWidth, widthFor, svg, ready, onTaken }: Props) {
  const [dpi, setDpi] = useState(300);
  const [spot, setSpot] = useState('');
  const [metres, setMetres] = useState('');
  const [copied, setCopied] = useState<string | null>(null);
  const shares = useSyncExternalStore(nothingChanges, sharesFiles, () => false);
  const hall = Number(metres) > 0 ? widthFor(Number(metres) * 1_000) : null;
  const address = (format: string) => {
    const asked = new URLSearchParams({ mm: String(widthMm), dpi: String(dpi), download: '' });
    if (format === 'pdf' && spot.trim()) asked.set('spot', spot.trim());
    return `/api/hand-outs/${code.id}/code.${format}?${asked}`;
  };
  const picture = `/api/hand-outs/${code.id}/code.png?mm=${widthMm}&dpi=${dpi}`;
  async function copy() {
    if (!svg) return;
    const done = await toClipboard(picture);
    setCopied(done ? FRAME.copied : FRAME.copyFailed);
    onTaken();
  }
  async function share() {
    onTaken();
    await toLibrary(picture);
  }
  return (
    <section aria-label={CODES.download} className="downloads">
      <p className="caps">{CODES.download}</p>
      <div className="pair">
        <NumberField id="code-mm" word={CODES.widthMm} value={widthMm} least={3} most={2_000} onValue={onWidth} />
        <NumberField id="code-dpi" word={CODES.dpi} value={dpi} least={36} most={2_400} onValue={setDpi} />
      </div>
      <div className="pair">
        {FORMATS.map(([format, word], at) => (
          <a
            key={format}
            className={`btn ${at === 0 ? 'btn-primary' : 'btn-quiet'} ${ready ? '' : 'disabled'}`}
            aria-disabled={!ready}
            href={ready ? address(format) : undefined}
            download
            onClick={ready ? onTaken : undefined}
          >
            {at === 0 ? CODES.downloadAs(word) : word}
          </a>
        ))}
        <button type="button" className="btn btn-quiet" disabled={!ready} onClick={() => void copy()}>
          {copied ?? CODES.copyPicture}
        </button>
        {shares && (
          <button type="button" className="btn btn-quiet" disabled={!ready} onClick={() => void share()}>
            {CODES.toLibrary}
          </button>
        )}
      </div>
      <details>
        <summary>{CODES.spot}</summary>
        <Form.Control
          size="sm"
          aria-label={CODES.spot}
          value={spot}
          maxLength={60}
          onChange={({ target }) => setSpot(target.value.replace(/[^\w .-]/g, ''))}
        />
        <p className="note">{CODES.spotNote}</p>
        <p className="hall">
          {CODES.forHall}{' '}
          <Form.Control
            size="sm"
            type="number"
            aria-label={CODES.forHall}
            min={1}
            max={100}
            value={metres}
            onChange={({ target }) => setMetres(target.value)}
          />{' '}
          {CODES.metres}
          {hall !== null && <strong> {CODES.hallWidth(hall)}</strong>}
        </p>
      </details>
    </section>
  );
}

const nothingChanges = () => () => undefined;
/** Whether the device takes a picture from a page, as phones do, where its photo library is one of the places for it. */
const sharesFiles = () => {
  const empty = new File([], 'code.png', { type: 'image/png' });
  return typeof navigator.canShare === 'function' && navigator.canShare({ files: [empty] });
};

/** Gives the device a picture of our own server; leaving its sheet without a choice is no fault. */
async function toLibrary(address: string): Promise<void> {
  const answer = await fetch(address);
  const [, name = 'code.png'] = /filename="([^"]+)"/.exec(answer.headers.get('Content-Disposition') ?? '') ?? [];
  const file = new File([await answer.blob()], name, { type: 'image/png' });
  await navigator.share({ files: [file] }).catch(() => undefined);
}

/** Puts a picture of our own server on the clipboard; answers whether that was allowed. */
async function toClipboard(address: string): Promise<boolean> {
  try {
    const picture = fetch(address).then((answer) => answer.blob());
    await navigator.clipboard.write([new ClipboardItem({ 'image/png': picture })]);
    return true;
  } catch {
    return false;
  }
}

function NumberField({
  id,
  word,
  value,
  least,
  most,
  onValue,
}: {
  id: string;
  word: string;
  value: number;
  least: number;
  most: number;
  onValue: (value: number) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <Form.Group controlId={id}>
      <Form.Label>{word}</Form.Label>
      <Form.Control
        size="sm"
        type="number"
        className="short mono"
        min={least}
        max={most}
        value={typed ?? value}
        onChange={({ target }) => {
          const read = Number(target.value);
          const fits = read >= least && read <= most;
          setTyped(fits ? null : target.value);
          if (fits) onValue(read);
        }}
        onBlur={() => setTyped(null)}
      />
    </Form.Group>
  );
}
