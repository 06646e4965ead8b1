'use client';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem, Result } from '@/core/errors';
import { RECORD } from '@/core/words';
import { clampCrop, squareOf, tooSmallFor, wholeCrop, type Crop, type DetailOf } from '@/core/record';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Photo = DetailOf<'photo'>;
const STAGE = 260;

/** How the picture lies in a square of `side` CSS pixels that shows the crop. */
function placed(crop: Crop, width: number, height: number, side: number) {
  const scale = side / (crop.side * Math.min(width, height));
  const { left, top } = squareOf(crop, width, height);
  return {
    width: width * scale,
    height: height * scale,
    maxWidth: 'none',
    position: 'absolute' as const,
    left: -left * scale - (width * scale) / 2,
    top: -top * scale - (height * scale) / 2,
    transform: `rotate(${crop.turn}deg)`,
  };
}

const cutPhoto = (crop: Crop) => call<{ picture: string }>('/api/photos/crop', { json: crop });

/** Crops a photo: drag or arrow keys move it, a slider zooms, another straightens; round, square and wide previews follow. */
export function PhotoCrop({
  detail,
  cut = cutPhoto,
  onChange,
  onClose,
}: {
  detail: Photo;
  /** Cuts and keeps the square; answers with the picture that it is then. */
  cut?: (crop: Crop) => Promise<Result<{ picture: string }>>;
  onChange: (detail: Photo) => void;
  onClose: () => void;
}) {
  const from = detail.crop?.from ?? detail.picture;
  const source = `/api/pictures/${from}?size=whole`;
  const [size, setSize] = useState<{ width: number; height: number } | null>(null);
  const [crop, setCrop] = useState<Crop | null>(detail.crop ?? null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const grabbed = useRef<{ x: number; y: number; crop: Crop } | null>(null);

  const set = (change: Partial<Crop>) =>
    size && crop && setCrop(clampCrop({ ...crop, ...change }, size.width, size.height));
  const shift = (base: Crop, dx: number, dy: number) => {
    if (!size) return;
    const perPixel = (base.side * Math.min(size.width, size.height)) / STAGE;
    set({
      x: base.x - (dx * perPixel) / size.width,
      y: base.y - (dy * perPixel) / size.height,
    });
  };
  const keys = (event: KeyboardEvent) => {
    const step = { ArrowLeft: [8, 0], ArrowRight: [-8, 0], ArrowUp: [0, 8], ArrowDown: [0, -8] }[event.key];
    if (!step || !crop) return;
    event.preventDefault();
    shift(crop, step[0]!, step[1]!);
  };
  const drag = (event: PointerEvent) => {
    const start = grabbed.current;
    if (start) shift(start.crop, event.clientX - start.x, event.clientY - start.y);
  };

  async function keep() {
    if (!crop) return;
    setBusy(true);
    const answer = await cut(crop);
    setBusy(false);
    if (!answer.ok) return setProblem(answer.problem);
    onChange({ ...detail, picture: answer.value.picture, crop });
    onClose();
  }

  const small = size && crop ? tooSmallFor(crop.side * Math.min(size.width, size.height)) : [];
  const view = (side: number, className: string) => (
    <div className={className} style={{ width: side, height: side }}>
      {crop && size && (
        <img src={source} alt="" style={placed(crop, size.width, size.height, side)} draggable={false} />
      )}
    </div>
  );
  return (
    <div className="photo-crop" role="group" aria-label={RECORD.cropTitle}>
      {/* Only to learn how large the picture is. */}
      {!size && (
        <img
          className="visually-hidden"
          src={source}
          alt=""
          onLoad={({ currentTarget: { naturalWidth: width, naturalHeight: height } }) => {
            setSize({ width, height });
            setCrop(crop ?? wholeCrop(from, width, height));
          }}
        />
      )}
      <div
        className="stage-square"
        role="application"
        aria-label={RECORD.cropStage}
        tabIndex={0}
        style={{ width: STAGE, height: STAGE }}
        onKeyDown={keys}
        onPointerDown={(event) => {
          if (!crop) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          grabbed.current = { x: event.clientX, y: event.clientY, crop };
        }}
        onPointerMove={drag}
        onPointerUp={() => (grabbed.current = null)}
        onWheel={(event) =>
          crop && set({ side: Math.max(0.1, Math.min(1, crop.side * (event.deltaY > 0 ? 1.05 : 0.95))) })
        }
      >
        {crop && size && (
          <>
            <img src={source} alt="" style={placed(crop, size.width, size.height, STAGE)} draggable={false} />
            <span className="ring" aria-hidden="true" />
            <span
              className="focus"
              aria-hidden="true"
              style={{ left: `${crop.focus.x * 100}%`, top: `${crop.focus.y * 100}%` }}
            />
          </>
        )}
      </div>
      <div className="crop-side">
        <Form.Group controlId={`zoom-${detail.id}`}>
          <Form.Label>{RECORD.zoom}</Form.Label>
          <Form.Range
            disabled={!crop}
            min={1}
            max={6}
            step={0.05}
            value={crop ? 1 / crop.side : 1}
            onChange={(event) => set({ side: 1 / Number(event.target.value) })}
          />
        </Form.Group>
        <Form.Group controlId={`turn-${detail.id}`}>
          <Form.Label>{RECORD.straighten(Math.round((crop?.turn ?? 0) * 10) / 10)}</Form.Label>
          <Form.Range
            disabled={!crop}
            min={-20}
            max={20}
            step={0.5}
            value={crop?.turn ?? 0}
            onChange={(event) => set({ turn: Number(event.target.value) })}
          />
        </Form.Group>
        <div className="pair">
          {(['x', 'y'] as const).map((axis) => (
            <Form.Group key={axis} controlId={`focus-${axis}-${detail.id}`}>
              <Form.Label>{RECORD.focus[axis]}</Form.Label>
              <Form.Range
                disabled={!crop}
                min={0}
                max={1}
                step={0.02}
                value={crop?.focus[axis] ?? 0.5}
                onChange={(event) => crop && set({ focus: { ...crop.focus, [axis]: Number(event.target.value) } })}
              />
            </Form.Group>
          ))}
        </div>
        <div className="previews">
          <figure>
            {view(72, 'preview round')}
            <figcaption>{RECORD.round}</figcaption>
          </figure>
          <figure>
            {view(72, 'preview')}
            <figcaption>{RECORD.square}</figcaption>
          </figure>
          <figure>
            <div className="preview wide" style={{ width: 144, height: 72 }}>
              {crop && (
                <div style={{ position: 'absolute', left: 0, top: -(144 - 72) * crop.focus.y }}>
                  {view(144, 'preview')}
                </div>
              )}
            </div>
            <figcaption>{RECORD.wideShape}</figcaption>
          </figure>
        </div>
        {small.length > 0 && <p className="attention">{RECORD.tooSmall(small)}</p>}
        <ProblemNote problem={problem} />
        <div className="pair">
          <Button disabled={!crop || busy} onClick={() => void keep()}>
            {busy ? RECORD.cropping : RECORD.keepCrop}
          </Button>
          <Button variant="quiet" onClick={onClose}>
            {RECORD.close}
          </Button>
        </div>
      </div>
    </div>
  );
}
