'use client';
import { contrast, SHAPE_RATIO } from '@/core/look';
import { HOUSE } from '@/core/words';
import { useLogoColours } from '@/ui/card/specimen/use-plates';

/** A logo on its ground, measured on its own pixels: the best of its strongest colours counts. */
export function LogoOn({ logo, ground }: { logo: { hash: string } | null; ground: string }) {
  const found = useLogoColours(logo?.hash ?? null);
  if (!logo) return null;
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
