'use client';
import { useId, useState } from 'react';
import { Form } from 'react-bootstrap';
import { LOOK } from '@/core/words';
import { invalid } from '@/ui/studio/problem-note';

const HEX = /^#?[0-9a-f]{6}$/i;

/** A colour, picked or typed as its value. */
export function ColourField({
  label,
  value,
  onColour,
  disabled = false,
}: {
  label: string;
  value: string;
  onColour: (hex: string) => void;
  disabled?: boolean;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const note = useId();
  const [wrong, setWrong] = useState(false);
  const keep = (text: string) => {
    const fits = HEX.test(text);
    setTyped(fits ? null : text);
    setWrong(!fits);
    if (fits) onColour(`#${text.replace('#', '')}`.toUpperCase());
  };
  return (
    <div className="colour-field">
      <input
        type="color"
        aria-label={label}
        value={value}
        disabled={disabled}
        onChange={({ target }) => {
          setTyped(null);
          setWrong(false);
          onColour(target.value.toUpperCase());
        }}
      />
      <span>{label}</span>
      <Form.Control
        size="sm"
        className="mono"
        aria-label={LOOK.colourOf(label)}
        value={typed ?? value}
        maxLength={7}
        spellCheck={false}
        disabled={disabled}
        {...invalid(note, wrong)}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={({ target }) => keep(target.value)}
        onKeyDown={(event) => event.key === 'Enter' && keep(event.currentTarget.value)}
      />
      {wrong && (
        <p className="problem" role="alert" id={note}>
          {LOOK.noColour}
        </p>
      )}
    </div>
  );
}
