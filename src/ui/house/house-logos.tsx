'use client';
import type { HouseStyle } from '@/core/house';
import type { Palette } from '@/core/look';
import { HOUSE } from '@/core/words';
import { PictureInput } from '@/ui/card/blocks/file-input';
import { LogoOn } from '@/ui/look/logo-on';

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
