'use client';
import { useEffect, useState } from 'react';
import type { Picture } from '@/core/card';
import type { HouseStyle } from '@/core/house';
import { contrast, SHAPE_RATIO, type Palette } from '@/core/look';
import { HOUSE } from '@/core/messages';
import { PictureInput } from '@/ui/card/blocks/file-input';
import { call } from '@/ui/studio/call';

type Logos = HouseStyle['logos'];

/** The organisation's logos, each on the ground that it is for, with how well it stands out there. */
export function HouseLogos({
  logos,
  palette,
  onLogos,
}: {
  logos: Logos;
  palette: Palette;
  onLogos: (logos: Logos) => void;
}) {
  const each = (part: keyof Logos, word: string, ground: string) => (
    <div className="house-logo">
      <b>{word}</b>
      <LogoOn logo={logos[part]} ground={ground} />
      <PictureInput picture={null} word={HOUSE.give} onPicture={(picture) => onLogos({ ...logos, [part]: picture })} />
      {logos[part] && (
        <button type="button" className="plain" onClick={() => onLogos({ ...logos, [part]: null })}>
          {HOUSE.takeAway}
        </button>
      )}
    </div>
  );
  return (
    <div className="house-logos">
      {each('onLight', HOUSE.logoLight, palette.sheet)}
      {each('onDark', HOUSE.logoDark, palette.band)}
    </div>
  );
}

/** A logo on its ground, measured on its own pixels: the best of its strongest colours counts. */
function LogoOn({ logo, ground }: { logo: Picture | null; ground: string }) {
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
