'use client';
import { useEffect, useState } from 'react';
import { FACE_SIZES, type FaceName } from '@/core/face';
import { LOOK } from '@/core/words';

type Told = { url: string; leftOut: number; cut: boolean; missing: number; smallest: number };

const POINTS_A_MM = 72 / 25.4;

/** A face of the card as the server draws it from what is saved: the very drawing that pictures and print are made from. */
export function FaceView({ card, name, version }: { card: string; name: FaceName; version: number }) {
  const [told, setTold] = useState<Told | null>(null);
  useEffect(() => {
    let gone = false;
    let url = '';
    void fetch(`/api/cards/${card}/faces/${name}.svg?version=${version}`).then(async (answer) => {
      if (!answer.ok || gone) return;
      const [leftOut = '0', cut = '-', missing = '0', smallest = '0'] = (
        answer.headers.get('heathland-face') ?? ''
      ).split(' ');
      url = URL.createObjectURL(await answer.blob());
      if (gone) return URL.revokeObjectURL(url);
      setTold({
        url,
        leftOut: Number(leftOut),
        cut: cut !== '-',
        missing: Number(missing),
        smallest: Number(smallest),
      });
    });
    return () => {
      gone = true;
      URL.revokeObjectURL(url);
    };
  }, [card, name, version]);
  const { width, height } = FACE_SIZES[name];
  const printed = name !== 'link' && name !== 'picture';
  return (
    <figure className={`face ${name}`}>
      {told ? (
        <img
          src={told.url}
          alt={LOOK.views[name]}
          style={
            printed ? { width: `${width}mm`, height: `${height}mm` } : { width: '100%', aspectRatio: width / height }
          }
        />
      ) : (
        <p className="note">{LOOK.drawing}</p>
      )}
      <figcaption role="status">
        <span className="mono">{LOOK.faceSize(width, height, printed ? 'mm' : 'px')}</span>
        {told && (
          <p>
            {told.leftOut === 0 && !told.cut && told.missing === 0 ? `${LOOK.fits} ` : ''}
            {told.leftOut > 0 ? `${LOOK.noRoom(told.leftOut)} ` : ''}
            {told.cut ? `${LOOK.cut} ` : ''}
            {told.missing > 0 ? `${LOOK.missing(told.missing)} ` : ''}
            {Number.isFinite(told.smallest) && told.smallest > 0
              ? printed
                ? LOOK.smallestPt(told.smallest * POINTS_A_MM)
                : LOOK.smallestPx(told.smallest)
              : ''}
          </p>
        )}
        {name === 'link' && <p className="note">{LOOK.linkNote}</p>}
      </figcaption>
    </figure>
  );
}
