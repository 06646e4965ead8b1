'use client';
import { useEffect, useState } from 'react';
import { contrast, SHAPE_RATIO } from '@/core/look';
import { HOUSE } from '@/core/messages';
import { call } from '@/ui/studio/call';

/** A logo on its ground, measured on its own pixels: the best of its strongest colours counts. */
export function LogoOn({ logo, ground }: { logo: { hash: string } | null; ground: string }) {
  const [colours, setColours] = useState<{ of: string; found: string[] } | null>(null);
  const hash = logo?.hash ?? null;
  useEffect(() => {
    let gone = false;
    if (hash)
      void call<{ colours: string[] }>(`/api/pictures/${hash}/colours`).then((answer) => {
        if (answer.ok && !gone) setColours({ of: hash, found: answer.value.colours });
      });
    return () => {
      gone = true;
    };
  }, [hash]);
  if (!logo) return null;
  const found = colours?.of === hash ? colours.found : [];
  const best = Math.max(0, ...found.map((colour) => contrast(colour, ground)));
  return (
    <>
      <span className="logo-ground" style={{ background: ground }}>
        <img src={`/api/pictures/${logo.hash}`} alt="" />
      </span>
      {best > 0 && (
        <p className={best < SHAPE_RATIO ? 'problem' : 'note'} role="status">
          {best < SHAPE_RATIO ? HOUSE.logoFails(best.toFixed(1)) : HOUSE.logoReads(best.toFixed(1))}
        </p>
      )}
    </>
  );
}
