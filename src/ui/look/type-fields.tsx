'use client';
import { useEffect } from 'react';
import { FAMILIES, FAMILY_NAMES, fontFile, SCALES, type FamilyName, type Look, type Weight } from '@/core/look';
import { LOOK } from '@/core/words';
import { Choice } from './choice';

const asFace = (family: FamilyName, weight: Weight) => `look-${family}-${weight}`;

/** The type families of a look, each shown in itself. */
export function TypeFields({
  look,
  sample,
  disabled,
  onLook,
}: {
  look: Look;
  /** The words that each family is shown with: the name that it will carry. */
  sample: string;
  disabled: boolean;
  onLook: (look: Look) => void;
}) {
  useEffect(() => {
    for (const family of FAMILY_NAMES)
      for (const weight of ['plain', 'heavy'] as const) {
        const face = new FontFace(asFace(family, weight), `url(/fonts/${fontFile(family, weight, 'latin')})`);
        void face.load().then((loaded) => document.fonts.add(loaded));
      }
  }, []);
  const list = (part: 'title' | 'text', weight: Weight, word: string) => (
    <fieldset className="families" disabled={disabled}>
      <legend>{word}</legend>
      {FAMILY_NAMES.map((family) => (
        <button
          key={family}
          type="button"
          aria-pressed={look[part] === family}
          onClick={() => onLook({ ...look, [part]: family })}
        >
          <span style={{ fontFamily: `${asFace(family, weight)}, ${FAMILIES[family].kind}` }}>{sample}</span>
          <small>{FAMILIES[family].name}</small>
        </button>
      ))}
    </fieldset>
  );
  return (
    <>
      <div className="type-lists">
        {list('title', 'heavy', LOOK.titleFamily)}
        {list('text', 'plain', LOOK.textFamily)}
      </div>
      <Choice
        of={LOOK.scale}
        among={SCALES}
        words={LOOK.scales}
        value={look.scale}
        disabled={disabled}
        onChoose={(scale) => onLook({ ...look, scale })}
      />
    </>
  );
}
