'use client';
import { useEffect, useState } from 'react';
import { FACE_SIZES, type FaceName } from '@/core/face';
import type { HouseStyle } from '@/core/house';
import type { LayoutName } from '@/core/look';

/** A colour that is being dragged is drawn once the hand rests so long, in milliseconds. */
const REST_MS = 500;

/** A face of a card in a house style that is not saved yet, drawn by the server; what was drawn before stays until the next is there. */
export function HouseFace({
  card,
  style,
  name,
  layout = null,
  alt = '',
}: {
  card: string;
  style: HouseStyle;
  name: FaceName;
  layout?: LayoutName | null;
  alt?: string;
}) {
  const [url, setUrl] = useState<string | null>(null);
  const asked = JSON.stringify({ card, face: name, layout, style });
  useEffect(() => {
    const given = new AbortController();
    const timer = setTimeout(async () => {
      const headers = { 'Content-Type': 'application/json' };
      const answer = await fetch('/api/house/faces', {
        method: 'POST',
        headers,
        body: asked,
        signal: given.signal,
      }).catch(() => null);
      if (!answer?.ok) return;
      const drawn = await answer.blob();
      if (!given.signal.aborted) setUrl(URL.createObjectURL(drawn));
    }, REST_MS);
    return () => {
      clearTimeout(timer);
      given.abort();
    };
  }, [asked]);
  useEffect(() => () => (url ? URL.revokeObjectURL(url) : undefined), [url]);
  const { width, height } = FACE_SIZES[name];
  return url ? (
    <img src={url} alt={alt} className="house-face" style={{ aspectRatio: width / height }} />
  ) : (
    <span className="house-face" style={{ aspectRatio: width / height }} />
  );
}
